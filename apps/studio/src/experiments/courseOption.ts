import type { Goal, Round } from '@ruta/core/experiments';
import type { EChartsCoreOption } from 'echarts/core';
import { formatAmount, formatRate } from '../base/format';
import { dayWords } from '../insight/periods';

/** The original in ink; arms in colours that are told apart without seeing red and green. */
const COLOURS = ['#10262b', '#6a4ba3', '#0b6b4f', '#1f5fa8', '#8a5a00', '#7b8a8d'];
const DASHES = ['solid', 'solid', 'dashed', 'dotted', 'dashed', 'dotted'];

/** How the goal of each arm settled, day by day: of everybody who had come until then. */
export function courseOption({ days, arms }: Pick<Round, 'days' | 'arms'>, goal: Goal, currency: string): EChartsCoreOption {
  const write = (value: unknown) => (typeof value === 'number' ? (goal === 'revenue' ? formatAmount(value, currency) : formatRate(value)) : '–');
  return {
    grid: { left: 64, right: 20, top: 18, bottom: 28 },
    tooltip: { trigger: 'axis', valueFormatter: write },
    xAxis: {
      type: 'category',
      data: days.map(({ day }) => dayWords(day)),
      boundaryGap: false,
      axisLine: { lineStyle: { color: '#d5dcd7' } },
      axisTick: { show: false },
      axisLabel: { color: '#52666a' },
    },
    yAxis: { type: 'value', min: 0, axisLabel: { color: '#52666a', formatter: write }, splitLine: { lineStyle: { color: '#d5dcd7' } }, splitNumber: 3 },
    series: arms.map(({ id, name }, index) => {
      let [visitors, reached] = [0, 0];
      const colour = COLOURS[index % COLOURS.length];
      return {
        name,
        type: 'line',
        showSymbol: days.length < 2,
        lineStyle: { color: colour, width: 2.5, type: DASHES[index % DASHES.length] },
        itemStyle: { color: colour },
        data: days.map((day) => {
          const here = day.arms.find(({ armId }) => armId === id);
          visitors += here?.visitors ?? 0;
          reached += (goal === 'revenue' ? here?.revenue : here?.converted) ?? 0;
          return visitors === 0 ? null : reached / visitors;
        }),
      };
    }),
  };
}

export const colourOf = (index: number): string => COLOURS[index % COLOURS.length] as string;
