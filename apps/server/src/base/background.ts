import { Worker } from 'node:worker_threads';
import { Refusal } from './problem';
import type { Services } from './services';

/** What a task is begun with, and what it may answer. */
export interface TaskOrder {
  dataDir: string;
  task: string;
  input: unknown;
}
export type TaskAnswer = { result: unknown } | { refusal: { status: number; title: string; fields: Refusal['fields'] } };

/**
 * Does something long in a thread of its own, with a database connection of its own, so that visitors are answered
 * meanwhile. The tasks there are stand in `worker.ts`.
 * @throws Refusal as the task gave it
 */
export function inBackground<Result>({ config }: Pick<Services, 'config'>, task: string, input: unknown): Promise<Result> {
  return new Promise((resolve, reject) => {
    const order: TaskOrder = { dataDir: config.dataDir, task, input };
    const worker = new Worker(config.assets.worker, { workerData: order });
    worker.once('message', (answer: TaskAnswer) => {
      if ('result' in answer) resolve(answer.result as Result);
      else reject(new Refusal(answer.refusal.status, answer.refusal.title, answer.refusal.fields));
    });
    worker.once('error', reject);
    worker.once('exit', () => reject(new Error(`The task ${task} ended without an answer.`)));
  });
}
