import { Worker } from 'node:worker_threads';
import { TASK_PARTS, type TaskProgress } from '@ruta/core/tasks';
import type { Config } from './config';
import { Refusal } from './problem';
import { errorOf, type ThreadAnswer } from './threadAnswer';

/** What a task is begun with. */
export interface TaskOrder {
  dataDir: string;
  task: string;
  input: unknown;
  cells: TaskCells;
}

/** What both threads see at once: how the task stands, which part of it is under way, and how far that is. */
export type TaskCells = Int32Array<SharedArrayBuffer>;
const [STATE, PART, DONE, OF] = [0, 1, 2, 3];
/** A task can be stopped while it is open; who moves it on from there first has decided. */
const OPEN = 0;
const STOPPED = 1;
const WRITING = 2;

/** What a task says of itself while it works. */
export interface TaskHand {
  tell: (part: TaskProgress['part'], done: number, of: number) => void;
  /** To be called before anything is written: from here on it cannot be stopped. */
  beginWriting: () => void;
  /** Leaves the database to whoever waits for it, for a moment. */
  giveWay: () => void;
}
/** What something of several steps has in hand. */
export interface StepsHand extends Pick<TaskHand, 'tell' | 'beginWriting'> {
  /** Does one of the tasks in `worker.ts` as a step. */
  run: <Result>(task: string, input: unknown) => Promise<Result>;
}

/** For a task that is done at once, in the thread of whoever calls it. */
export const AT_ONCE: TaskHand = { tell: () => {}, beginWriting: () => {}, giveWay: () => {} };

/** The hand of a task in a thread of its own. */
export const handOf = (cells: TaskCells): TaskHand => ({
  tell: (part, done, of) => tell(cells, part, done, of),
  beginWriting: () => beginWriting(cells),
  // A thread of its own may sleep.
  giveWay: () => void Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, GIVES_WAY_MS),
});

function tell(cells: TaskCells, part: TaskProgress['part'], done: number, of: number): void {
  cells[DONE] = done;
  cells[OF] = of;
  Atomics.store(cells, PART, TASK_PARTS.indexOf(part));
}

function beginWriting(cells: TaskCells): void {
  // Whoever stopped it ends this thread in the same breath.
  if (Atomics.compareExchange(cells, STATE, OPEN, WRITING) !== OPEN) throw new Refusal(409, STOPPED_WORDS);
  tell(cells, 'writing', 0, 0);
}

/** Whoever waits for the database looks again within so long. */
const GIVES_WAY_MS = 30;
const MOST_AT_ONCE = 2;
/** What a task may need of memory, in megabytes: the largest file that is taken needs a third of it. */
const MOST_MEMORY = 1024;
/** How many ids of the last tasks are remembered. */
const MOST_REMEMBERED = 1000;
const STOPPED_WORDS = 'Stopped. Nothing was changed.';

interface Task {
  cells: TaskCells;
  /** Ends it before it is done; it is answered as stopped. */
  end: () => void;
}

/**
 * What takes long is done in threads of their own, each with a database connection of its own, so that visitors are
 * answered meanwhile: two at a time, the others wait. How far one is can be asked, and it can be stopped until it writes.
 */
export class Tasks {
  private readonly known = new Map<string, Task>();
  /** Tasks that have ended, and tasks that were stopped before all of their file was here. */
  private readonly ended = new Set<string>();
  private readonly stoppedAhead = new Set<string>();
  private readonly waiting: Array<() => void> = [];
  private running = 0;

  constructor(private readonly config: Pick<Config, 'dataDir' | 'assets'>) {}

  /**
   * @param task one of those in `worker.ts`
   * @param id by which it can be asked after
   * @throws Refusal as the task gave it; 409 if it was stopped; 413 if it needs more memory than there is for it
   */
  run<Result>(task: string, input: unknown, id?: string): Promise<Result> {
    return this.steps((hand) => hand.run(task, input), id);
  }

  /**
   * Something of several steps, some of them tasks: asked after and stopped as one.
   * @throws Refusal 409 if it was stopped before it began to write
   */
  async steps<Result>(work: (hand: StepsHand) => Promise<Result>, id?: string): Promise<Result> {
    if (id && this.known.has(id)) throw new Refusal(409, 'This is under way already.');
    if (id && this.stoppedAhead.delete(id)) throw new Refusal(409, STOPPED_WORDS);
    const cells: TaskCells = new Int32Array(new SharedArrayBuffer(4 * Int32Array.BYTES_PER_ELEMENT));
    const own: Task = { cells, end: () => {} };
    if (id) this.known.set(id, own);
    try {
      return await work({
        run: (task, input) => this.runOwn(task, input, own),
        tell: (part, done, of) => tell(cells, part, done, of),
        beginWriting: () => beginWriting(cells),
      });
    } finally {
      if (id) {
        this.known.delete(id);
        remember(this.ended, id);
      }
    }
  }

  private async runOwn<Result>(task: string, input: unknown, own: Task): Promise<Result> {
    await this.turn(own);
    try {
      if (own.cells[STATE] === STOPPED) throw new Refusal(409, STOPPED_WORDS);
      tell(own.cells, 'reading', 0, 0);
      return (await this.inThread(task, input, own)) as Result;
    } finally {
      // What comes after it is stopped where it begins to write.
      own.end = () => {};
      this.giveTurn();
    }
  }

  /** How far a task is; undefined for one that has ended, or that nobody gave this id. */
  progress(id: string): TaskProgress | undefined {
    const cells = this.known.get(id)?.cells;
    return cells && { part: TASK_PARTS[cells[PART] ?? 0] ?? 'waiting', done: cells[DONE] ?? 0, of: cells[OF] ?? 0 };
  }

  /** Stops a task, also one whose file is still on its way here. @returns false where it was too late: it is being written, or done */
  stop(id: string): boolean {
    const task = this.known.get(id);
    if (!task) {
      if (!this.ended.has(id)) remember(this.stoppedAhead, id);
      return !this.ended.has(id);
    }
    if (Atomics.compareExchange(task.cells, STATE, OPEN, STOPPED) !== OPEN) return false;
    task.end();
    return true;
  }

  /** Waits until this one may begin. @throws Refusal if it was stopped before */
  private turn(own: Task): Promise<void> {
    if (this.running < MOST_AT_ONCE) {
      this.running++;
      return Promise.resolve();
    }
    return new Promise((resolve, reject) => {
      this.waiting.push(resolve);
      own.end = () => {
        const place = this.waiting.indexOf(resolve);
        if (place >= 0) this.waiting.splice(place, 1);
        reject(new Refusal(409, STOPPED_WORDS));
      };
    });
  }

  /** Whoever has ended hands its place to the next. */
  private giveTurn(): void {
    const next = this.waiting.shift();
    if (next) next();
    else this.running--;
  }

  private inThread(task: string, input: unknown, own: Task): Promise<unknown> {
    return new Promise((resolve, reject) => {
      const order: TaskOrder = { dataDir: this.config.dataDir, task, input, cells: own.cells };
      const worker = new Worker(this.config.assets.worker, { workerData: order, resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY } });
      own.end = () => {
        reject(new Refusal(409, STOPPED_WORDS));
        void worker.terminate();
      };
      worker.once('message', (answer: ThreadAnswer) => {
        if ('result' in answer) resolve(answer.result);
        else reject(errorOf(answer));
      });
      worker.once('error', (error: NodeJS.ErrnoException) =>
        reject(
          error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? new Refusal(413, 'This is more than can be read at once. Split the file. Nothing was changed.') : error,
        ),
      );
      worker.once('exit', () => reject(new Error(`The task ${task} ended without an answer.`)));
    });
  }
}

function remember(ids: Set<string>, id: string): void {
  ids.add(id);
  const [oldest] = ids;
  if (ids.size > MOST_REMEMBERED && oldest !== undefined) ids.delete(oldest);
}
