import { useCallback, useEffect, useRef, useState } from 'react';
import { newId } from '../base/newId';
import { taskApi } from '../base/taskApi';

/**
 * Something that takes long on the server, begun from here under an id by which it can be watched and stopped. What only
 * looks is stopped when its screen is left; what was asked to write goes on.
 */
export function useTask() {
  const [id, setId] = useState<string | null>(null);
  const looking = useRef<string | null>(null);
  const [stopTask] = taskApi.useStopTaskMutation();
  const stopLooking = useCallback(() => {
    if (looking.current) void stopTask(looking.current);
  }, [stopTask]);
  const run = useCallback(
    async <Result>(begin: (task: string) => Promise<Result>, isLook: boolean): Promise<Result> => {
      const task = newId('task');
      // Whoever looks anew waits for no older look.
      stopLooking();
      setId(task);
      looking.current = isLook ? task : null;
      try {
        return await begin(task);
      } finally {
        setId((now) => (now === task ? null : now));
        if (looking.current === task) looking.current = null;
      }
    },
    [stopLooking],
  );
  useEffect(() => stopLooking, [stopLooking]);
  return { id, run, stopLooking };
}
