import type { TaskPart } from '@ruta/core/tasks';
import { useEffect, useState } from 'react';
import { problemOf } from '../base/api';
import { taskApi } from '../base/taskApi';
import { Button } from './Button';

const EVERY_MS = 400;
/** What is done sooner than this is not worth a word. */
const QUIET_MS = 500;

const WORDS: Record<TaskPart, string> = {
  waiting: 'Waiting for another one to be done',
  reading: 'Reading',
  checking: 'Checking what is in it',
  preparing: 'Getting ready to write',
  writing: 'Writing it down: this can no longer be stopped',
};

/** How far something is that takes long on the server, and a way to stop it. */
export function UnderWay({ task }: { task: string }) {
  const { currentData: progress } = taskApi.useTaskProgressQuery(task, { pollingInterval: EVERY_MS });
  const [stop, stopping] = taskApi.useStopTaskMutation();
  // The server has refused what came too late; what became of it is told by the task itself.
  const [isLate, setLate] = useState(false);
  const cannotStop = isLate || progress?.part === 'writing';
  const [isShown, setShown] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setShown(true), QUIET_MS);
    return () => clearTimeout(timer);
  }, []);
  const problem = stopping.error ? problemOf(stopping.error).title : null;
  if (!isShown) return null;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <p role="status" className="min-w-0">
        {progress ? WORDS[progress.part] : 'Sending'}
      </p>
      {progress && progress.of > 0 ? <progress max={progress.of} value={progress.done} className="w-40" aria-label="How far it is" /> : null}
      <Button
        disabled={cannotStop || stopping.isLoading}
        onClick={async () => {
          const answer = await stop(task)
            .unwrap()
            .catch(() => null);
          if (answer) setLate(!answer.stopped);
        }}
      >
        Stop
      </Button>
      {problem ? <span className="text-stop">{problem}</span> : null}
    </div>
  );
}
