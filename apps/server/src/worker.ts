import path from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { readBundleFile } from '@ruta/core/bundles';
import { speakPlainly } from '@ruta/core/words';
import { systemClock } from './base/clock';
import { connectDb } from './base/db';
import { handOf, type TaskHand, type TaskOrder } from './base/tasks';
import { answerOf, type ThreadAnswer } from './base/threadAnswer';
import { changeProducts, undoChange } from './catalog/changeMany';
import { addKeys } from './catalog/keys';
import { exportProducts, importProducts } from './catalog/transfer';
import { exportCodes, importCodes } from './codes/transfer';
import { consentsCsv } from './contacts/consentsFile';
import { contactsCsv } from './facts/contactsFile';
import { importSpend } from './reports/spendFile';

type Needs = { db: ReturnType<typeof connectDb>['db']; clock: typeof systemClock };

/** Everything that is done in a thread of its own, by its name. */
const TASKS: Record<string, (services: Needs, input: never, hand: TaskHand) => unknown> = {
  importProducts,
  exportProducts,
  changeProducts,
  undoChange,
  importCodes,
  exportCodes,
  importSpend,
  addKeys,
  contactsCsv,
  consentsCsv,
  readBundle: (_services, bytes: Uint8Array) => readBundleFile(bytes),
};

speakPlainly();
const { dataDir, task, input, cells } = workerData as TaskOrder;
const { db, raw, close } = connectDb(path.join(dataDir, 'shop.sqlite'));
// Nobody but this thread waits here for another one's writing.
raw.pragma('busy_timeout = 15000');
// What is got ready here lies in no file, so that a disk that is full is told by what is written.
raw.pragma('temp_store = MEMORY');
// The database is held for less long if what was written is moved into its place afterwards.
raw.pragma('wal_autocheckpoint = 0');
raw.pragma('cache_size = -65536');
const answer = (words: ThreadAnswer) => parentPort?.postMessage(words);
try {
  const run = TASKS[task];
  if (!run) throw new Error(`There is no task ${task}.`);
  answer({ result: run({ db, clock: systemClock }, input as never, handOf(cells)) });
  raw.pragma('wal_checkpoint(PASSIVE)');
} catch (error) {
  answer(answerOf(error));
} finally {
  close();
}
