import type { Services } from './services';

/** Something done by the clock, again and again. */
export interface Job {
  name: string;
  run: () => Promise<void>;
  /** Jobs that have something to do once this one has run, and are not left to wait for the clock. */
  wakes?: readonly string[];
  /** What is begun is dropped where the server ends, and begun again after its next start: nobody waits for it. */
  isLeft?: true;
}

/** So long a server that is to end waits for what its jobs are doing. */
const LONGEST_END_MS = 5000;

/** Runs jobs by the clock, each by itself: one that waits for somebody else holds up no other. @returns ends them all */
export function startJobs({ config, log, writes }: Pick<Services, 'config' | 'log' | 'writes'>, jobs: readonly Job[]): () => Promise<void> {
  let stopped = false;
  const timers = new Map<string, NodeJS.Timeout>();
  const running = new Map<string, Promise<void>>();
  const again = new Set<string>();

  function begin(job: Job): void {
    clearTimeout(timers.get(job.name));
    // Nobody is to wait because a job does.
    const round = writes
      .free()
      .then(() => job.run())
      .catch((error: unknown) => {
        log.error({ err: error, job: job.name }, 'a job failed');
        writes.note(error);
      })
      .then(() => {
        running.delete(job.name);
        if (stopped) return;
        if (again.delete(job.name)) begin(job);
        else
          timers.set(
            job.name,
            setTimeout(() => begin(job), config.jobsEveryMs),
          );
        for (const name of job.wakes ?? []) wake(name);
      });
    running.set(job.name, round);
  }

  /** Runs a job now, or once more if it is just running: what it has read may be older than what it is woken for. */
  function wake(name: string): void {
    const job = jobs.find((candidate) => candidate.name === name);
    if (running.has(name)) again.add(name);
    else if (job) begin(job);
  }

  for (const job of jobs) begin(job);

  return async () => {
    stopped = true;
    for (const timer of timers.values()) clearTimeout(timer);
    // Whoever waits for somebody who does not answer is left: what it does is written whole or not at all, and done again.
    await Promise.race([
      Promise.all([...running].filter(([name]) => !jobs.find((job) => job.name === name)?.isLeft).map(([, round]) => round)),
      new Promise((resolve) => setTimeout(resolve, LONGEST_END_MS).unref()),
    ]);
  };
}
