import { Worker } from 'node:worker_threads';
import type { Clock } from './clock';
import type { Config } from './config';
import { Refusal } from './problem';
import { errorOf, type ThreadAnswer } from './threadAnswer';

/** A question as the reading thread is asked it. */
export type ReadingOrder = { kind: 'ask'; what: string; input: unknown; now: number } | { kind: 'forget' };

const SECONDS = 20;
/** So many wait at most: whoever looks again and again holds up nobody but themselves. */
const MOST_WAITING = 200;
const TOO_LONG = `This takes longer than ${SECONDS} seconds. Choose a shorter time, or try again in a quieter moment.`;

interface Question {
  order: ReadingOrder;
  resolve: (result: unknown) => void;
  reject: (error: unknown) => void;
}

/**
 * Whatever a seller looks at is counted in a thread of its own, over a connection that can only read, so that no buyer waits for
 * it. One question after the other, each with a limit of time.
 */
export class Reading {
  private thread: Worker | null = null;
  private readonly waiting: Question[] = [];
  private current: Question | null = null;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly config: Pick<Config, 'dataDir' | 'assets'>,
    private readonly clock: Clock,
  ) {}

  /**
   * @param what one of those in `reader.ts`
   * @throws Refusal as the question gave it; 503 if it takes too long, or too many are waiting
   */
  ask<Result>(what: string, input: unknown): Promise<Result> {
    if (this.waiting.length >= MOST_WAITING) return Promise.reject(new Refusal(503, 'Too much is being looked at. Try again in a moment.'));
    return new Promise<Result>((resolve, reject) => {
      this.waiting.push({ order: { kind: 'ask', what, input, now: this.clock.now() }, resolve: resolve as Question['resolve'], reject });
      this.next();
    });
  }

  /** What was kept in memory has changed, and is read anew for every later question. */
  forget(): void {
    this.thread?.postMessage({ kind: 'forget' } satisfies ReadingOrder);
  }

  close(): void {
    for (const { reject } of [...this.waiting.splice(0), ...(this.current ? [this.current] : [])]) reject(new Refusal(503, 'The server is being stopped.'));
    this.current = null;
    this.leave();
  }

  private next(): void {
    const question = this.current === null ? this.waiting.shift() : undefined;
    if (!question) return;
    this.current = question;
    this.timer = setTimeout(() => this.end(new Refusal(503, TOO_LONG)), SECONDS * 1000);
    this.open().postMessage(question.order);
  }

  private open(): Worker {
    if (this.thread) return this.thread;
    const thread = new Worker(this.config.assets.reader, { workerData: { dataDir: this.config.dataDir } });
    const ended = (error: unknown) => {
      if (this.thread === thread) this.end(error);
    };
    thread.on('message', (answer: ThreadAnswer) => {
      if (this.thread !== thread || !this.current) return;
      const { resolve, reject } = this.current;
      this.done();
      if ('result' in answer) resolve(answer.result);
      else reject(errorOf(answer));
      this.next();
    });
    thread.on('error', ended);
    thread.on('exit', () => ended(new Error('The reading thread has ended.')));
    // What is only looked at keeps no server from stopping.
    thread.unref();
    this.thread = thread;
    return thread;
  }

  /** Gives up what is being counted, and its thread with it: the database's own counting cannot be stopped from outside. */
  private end(error: unknown): void {
    const question = this.current;
    this.done();
    this.leave();
    question?.reject(error);
    this.next();
  }

  private done(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.current = null;
  }

  private leave(): void {
    const { thread } = this;
    this.thread = null;
    void thread?.terminate();
  }
}
