import { forecast } from '@ruta/core/forecast';
import type { ForecastAnswer, ForecastQuestion } from './useForecast';

/** Samples funnels away from the window, which goes on answering meanwhile. */
const scope = self as unknown as { onmessage: (event: MessageEvent<ForecastQuestion>) => void; postMessage: (answer: ForecastAnswer) => void };

scope.onmessage = ({ data: { input } }) => {
  try {
    const result = forecast(input, (done, of) => {
      scope.postMessage({ done, of });
      return false;
    });
    scope.postMessage({ result });
  } catch (error) {
    // What the core refuses is in words; anything else is a fault of ours, and told as one.
    if (!(error instanceof RangeError)) throw error;
    scope.postMessage({ problem: error.message });
  }
};
