import path from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { speakPlainly } from '@ruta/core/words';
import type { TaskAnswer, TaskOrder } from './base/background';
import { systemClock } from './base/clock';
import { connectDb } from './base/db';
import { Refusal } from './base/problem';
import { exportProducts, importProducts } from './catalog/transfer';
import { exportCodes, importCodes } from './codes/transfer';

/** Everything that is done in a thread of its own, by its name. */
const TASKS: Record<string, (services: { db: ReturnType<typeof connectDb>['db']; clock: typeof systemClock }, input: never) => unknown> = {
  importProducts,
  exportProducts,
  importCodes,
  exportCodes,
};

speakPlainly();
const { dataDir, task, input } = workerData as TaskOrder;
const { db, close } = connectDb(path.join(dataDir, 'shop.sqlite'));
const answer = (words: TaskAnswer) => parentPort?.postMessage(words);
try {
  const run = TASKS[task];
  if (!run) throw new Error(`There is no task ${task}.`);
  answer({ result: run({ db, clock: systemClock }, input as never) });
} catch (error) {
  if (!(error instanceof Refusal)) throw error;
  answer({ refusal: { status: error.status, title: error.title, fields: error.fields } });
} finally {
  close();
}
