import type { Forecast, ForecastInput } from '@ruta/core/forecast';
import { useCallback, useEffect, useRef, useState } from 'react';

export interface ForecastQuestion {
  input: ForecastInput;
}
export type ForecastAnswer = { done: number; of: number } | { result: Forecast } | { problem: string };

interface Standing {
  result: Forecast | null;
  /** How far it is; null while nothing is sampled. */
  progress: { done: number; of: number } | null;
  problem: string | null;
  /** Ended by hand: what stands is of what was asked before. */
  isStopped: boolean;
}

/** A forecast of a funnel, sampled in a worker; a newer question ends an older one, and it can be stopped. */
export function useForecast(input: ForecastInput | null): Standing & { stop: () => void } {
  const [standing, setStanding] = useState<Standing>({ result: null, progress: null, problem: null, isStopped: false });
  const worker = useRef<Worker | null>(null);
  const end = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
  }, []);
  useEffect(() => {
    if (!input) return;
    const asked = new Worker(new URL('./forecast.worker.ts', import.meta.url), { type: 'module' });
    worker.current = asked;
    setStanding((before) => ({ ...before, progress: { done: 0, of: input.samples }, problem: null, isStopped: false }));
    asked.onmessage = ({ data }: MessageEvent<ForecastAnswer>) => {
      if ('result' in data) setStanding({ result: data.result, progress: null, problem: null, isStopped: false });
      else if ('problem' in data) setStanding({ result: null, progress: null, problem: data.problem, isStopped: false });
      else setStanding((before) => ({ ...before, progress: data }));
    };
    asked.onerror = () => setStanding({ result: null, progress: null, problem: 'This browser could not reckon it. Load the page anew.', isStopped: false });
    asked.postMessage({ input } satisfies ForecastQuestion);
    return end;
  }, [input, end]);
  const stop = () => {
    end();
    setStanding((before) => ({ ...before, progress: null, isStopped: true }));
  };
  return { ...standing, stop };
}
