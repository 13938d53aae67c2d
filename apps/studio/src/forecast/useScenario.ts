import { NO_SCENARIO, type Scenario, ScenarioSchema } from '@ruta/core/forecast';
import { useState } from 'react';

const keyOf = (funnelId: string) => `ruta.scenario.${funnelId}`;

function kept(funnelId: string): Scenario {
  try {
    return ScenarioSchema.parse(JSON.parse(localStorage.getItem(keyOf(funnelId)) ?? '{}'));
  } catch {
    return NO_SCENARIO;
  }
}

/** What is typed over a funnel's figures; it is there again after a reload, and in another window that is opened later. */
export function useScenario(funnelId: string): [Scenario, (scenario: Scenario) => void] {
  const [held, setHeld] = useState(() => ({ funnelId, scenario: kept(funnelId) }));
  const scenario = held.funnelId === funnelId ? held.scenario : kept(funnelId);
  const change = (next: Scenario) => {
    setHeld({ funnelId, scenario: next });
    try {
      localStorage.setItem(keyOf(funnelId), JSON.stringify(next));
    } catch {
      // A browser that keeps nothing: it is gone after a reload, and everything else works.
    }
  };
  return [scenario, change];
}
