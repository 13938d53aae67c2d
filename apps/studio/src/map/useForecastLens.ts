import type { FunnelDetail } from '@ruta/core/checks';
import { applyScenario, type Forecast, NO_SCENARIO } from '@ruta/core/forecast';
import { equal } from '@ruta/core/json';
import { shiftDay } from '@ruta/core/reports';
import { dayFinder } from '@ruta/core/shop';
import { useMemo } from 'react';
import { formatAmount, formatCount } from '../base/format';
import { forecastApi } from '../forecast/api';
import { useForecast } from '../forecast/useForecast';
import { useScenario } from '../forecast/useScenario';

/** What the map says through the lens of the forecast. */
export interface ForecastLens {
  /** Under each stop's name. */
  captions: Record<string, string[]>;
  summary: string;
}

/**
 * A funnel's forecast on its map: who would come to each stop, what it would bring, and what a tenth more of its rate would
 * earn. It is the same forecast as among the results, with what is typed there.
 */
export function useForecastLens({ id, arm }: Pick<FunnelDetail, 'id' | 'arm'>, timeZone: string, days: number, isOn: boolean): ForecastLens {
  const funnelId = arm?.funnelId ?? id;
  const to = dayFinder(timeZone)(Date.now());
  const { data: basis } = forecastApi.useForecastBasisQuery({ funnelId, from: shiftDay(to, 1 - days), to }, { skip: !isOn });
  const [scenario] = useScenario(funnelId);
  const input = useMemo(() => (isOn && basis ? applyScenario(basis.input, scenario) : null), [isOn, basis, scenario]);
  const { result, problem } = useForecast(input);
  const isTyped = !equal(scenario, NO_SCENARIO);
  return useMemo(() => {
    if (!isOn) return { captions: {}, summary: '' };
    if (problem) return { captions: {}, summary: problem };
    if (!result) return { captions: {}, summary: 'Reckoning.' };
    return { captions: captionsOf(result), summary: summaryOf(result, isTyped) };
  }, [isOn, problem, result, isTyped]);
}

function captionsOf({ stops, sensitivities, currency, visitors }: Forecast): Record<string, string[]> {
  const money = (amount: number) => formatAmount(amount, currency);
  return Object.fromEntries(
    stops.map(({ id, people, income }) => {
      const raised = sensitivities.find((each) => each.kind === 'stop' && each.id === id);
      return [
        id,
        [
          `${formatCount(Math.round(people))} come${income > 0 ? `, ${money(income)}` : ''}`,
          ...(raised && Math.abs(raised.change * visitors) >= 1 ? [`a tenth more: ${money(raised.change * visitors)}`] : []),
        ],
      ];
    }),
  );
}

function summaryOf({ visitors, income, profit, spread, breakEvenClickPrice, currency }: Forecast, isTyped: boolean): string {
  const money = (amount: number) => formatAmount(amount, currency);
  return [
    `${formatCount(visitors)} visitors bring ${money(income)} and leave ${money(profit)}, nine times in ten between ${money(spread.profit.low)} and ${money(spread.profit.high)}.`,
    `One may cost ${money(breakEvenClickPrice)} at most.`,
    isTyped ? 'With what you typed under Results, Forecast.' : 'Type other rates and prices under Results, Forecast.',
  ].join(' ');
}
