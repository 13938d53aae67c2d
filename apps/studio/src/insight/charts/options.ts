import { figureOf, MEASURES, type Measure, type Report } from '@ruta/core/reports';
import type { EChartsCoreOption } from 'echarts/core';
import { figureWords } from '../figures';
import { dayWords } from '../periods';

const INK = '#10262b';
const SOFT = '#52666a';
const LINE = '#d5dcd7';
const GO = '#0b6b4f';
const GO_TINT = '#0b6b4f22';
const NO = '#7b8a8d';
const WAY = '#f4c20d';
const EXPERIMENT = '#6a4ba3';
const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

const GRID = { left: 64, right: 20, top: 18, bottom: 28 };
const axisWords = (measure: Measure, currency: string) => (value: number) => figureWords({ [measure]: value, ...asWhole(measure, value) }, measure, currency);

/** For an axis a rate is given as it is, though rows keep only what it is made of. */
function asWhole(measure: Measure, value: number): Partial<Record<Measure, number>> {
  const record = MEASURES[measure];
  return 'of' in record ? { [record.of[0]]: value, [record.of[1]]: 1 } : {};
}

/** A figure day by day, the earlier period as a dashed line, with the moments when something was published. */
export function trendOption(report: Report, measure: Measure, today: string): EChartsCoreOption {
  const { rows, currency, published, earlier } = report;
  const days = rows.map(({ name }) => dayWords(name));
  // A day that is not over says nothing yet beside whole ones.
  const values = rows.map(({ key, figures }) => (key === today && rows.length > 1 ? null : figureOf(figures, measure)));
  const before = rows.map(({ before: earlierFigures }) => (earlierFigures ? figureOf(earlierFigures, measure) : null));
  const marks = [...new Map(published.map(({ day, funnel }) => [day, funnel]))].map(([day, funnel]) => ({ xAxis: dayWords(day), name: funnel }));
  const write = axisWords(measure, currency);
  return {
    grid: GRID,
    tooltip: {
      trigger: 'axis',
      valueFormatter: (value: unknown) => (typeof value === 'number' ? write(value) : '–'),
    },
    xAxis: {
      type: 'category',
      data: days,
      boundaryGap: false,
      axisLine: { lineStyle: { color: LINE } },
      axisTick: { show: false },
      axisLabel: { color: SOFT },
    },
    yAxis: { type: 'value', axisLabel: { color: SOFT, formatter: write }, splitLine: { lineStyle: { color: LINE } }, splitNumber: 3 },
    series: [
      {
        name: MEASURES[measure].name,
        type: 'line',
        data: values,
        showSymbol: rows.length < 2,
        lineStyle: { color: GO, width: 2.5 },
        itemStyle: { color: GO },
        areaStyle: { color: GO_TINT },
        markLine: {
          silent: true,
          symbol: ['none', 'circle'],
          label: { formatter: 'published', color: SOFT, fontSize: 10 },
          lineStyle: { color: WAY, type: 'solid', width: 2 },
          data: marks,
        },
      },
      ...(earlier
        ? [{ name: 'Before', type: 'line', data: before, showSymbol: false, lineStyle: { color: NO, type: 'dashed', width: 1.5 }, itemStyle: { color: NO } }]
        : []),
    ],
  };
}

/** How people go from stop to stop: as wide as they are many. */
export function flowOption(routes: Report, stops: Report): EChartsCoreOption | null {
  const names = new Map(stops.rows.map(({ key, name }) => [key, name]));
  const links = routes.rows.flatMap(({ between, figures }) => {
    const people = figures.came ?? 0;
    return between && people > 0 && names.has(between.from) && names.has(between.to) ? [{ source: between.from, target: between.to, value: people }] : [];
  });
  const used = new Set(links.flatMap(({ source, target }) => [source, target]));
  if (links.length === 0 || isRing(links)) return null;
  return {
    tooltip: { trigger: 'item' },
    series: [
      {
        type: 'sankey',
        left: 12,
        right: 130,
        top: 8,
        bottom: 8,
        nodeWidth: 10,
        nodeGap: 18,
        draggable: false,
        emphasis: { focus: 'adjacency' },
        data: [...used].map((id) => ({ name: id, itemStyle: { color: INK } })),
        links,
        label: { color: INK, fontWeight: 600, formatter: ({ name }: { name: string }) => names.get(name) ?? name },
        lineStyle: { color: GO, opacity: 0.28, curveness: 0.5 },
      },
    ],
  };
}

/** Whether going along links can lead back; such a flow cannot be drawn from left to right. */
function isRing(links: ReadonlyArray<{ source: string; target: string }>): boolean {
  const onward = (id: string, been: ReadonlySet<string>): boolean =>
    been.has(id) || links.some(({ source, target }) => source === id && onward(target, new Set([...been, id])));
  return links.some(({ source }) => onward(source, new Set()));
}

/** When in the week people buy: the darker, the more. */
export function hoursOption(report: Report, measure: Measure): EChartsCoreOption {
  const cells = report.rows.map(({ key, figures }) => {
    const [weekday = 1, hour = 0] = key.split(' ').map(Number);
    return [hour, 7 - weekday, figureOf(figures, measure) ?? 0];
  });
  const write = axisWords(measure, report.currency);
  const axis = { axisTick: { show: false }, axisLine: { show: false }, axisLabel: { color: SOFT }, splitArea: { show: false } };
  return {
    grid: { ...GRID, left: 48 },
    tooltip: {
      formatter: ({ value }: { value: [number, number, number] }) => `${WEEKDAYS[6 - value[1]]} ${String(value[0]).padStart(2, '0')}:00, ${write(value[2])}`,
    },
    xAxis: { type: 'category', data: Array.from({ length: 24 }, (_, hour) => String(hour).padStart(2, '0')), ...axis },
    yAxis: { type: 'category', data: WEEKDAYS.toReversed(), ...axis },
    visualMap: { show: false, min: 0, max: Math.max(1, ...cells.map(([, , value]) => value ?? 0)), inRange: { color: ['#f3f5f2', '#9cc9b8', GO] } },
    series: [{ type: 'heatmap', data: cells, itemStyle: { borderColor: '#fff', borderWidth: 2, borderRadius: 3 } }],
  };
}

/** The row of an hour that was clicked in the chart of hours; undefined for anything else. */
export function hourRow(report: Report, value: unknown): Report['rows'][number] | undefined {
  const [hour, down] = Array.isArray(value) ? value : [];
  return report.rows.find(({ key }) => key === `${7 - Number(down)} ${hour}`);
}

/** Carts by day: paid at once, won back, and lost. */
export function cartsOption(report: Report): EChartsCoreOption {
  const of = (pick: (row: Report['rows'][number]['figures']) => number) => report.rows.map(({ figures }) => pick(figures));
  const series = (name: string, color: string, data: number[]) => ({ name, type: 'bar', stack: 'carts', data, itemStyle: { color }, barCategoryGap: '25%' });
  return {
    grid: GRID,
    tooltip: { trigger: 'axis' },
    xAxis: {
      type: 'category',
      data: report.rows.map(({ name }) => dayWords(name)),
      axisTick: { show: false },
      axisLine: { lineStyle: { color: LINE } },
      axisLabel: { color: SOFT },
    },
    yAxis: { type: 'value', minInterval: 1, axisLabel: { color: SOFT }, splitLine: { lineStyle: { color: LINE } } },
    series: [
      series(
        'Paid at once',
        GO,
        of(({ finished = 0, wonBack = 0 }) => (finished ?? 0) - (wonBack ?? 0)),
      ),
      series(
        'Won back',
        EXPERIMENT,
        of(({ wonBack = 0 }) => wonBack ?? 0),
      ),
      series(
        'Left',
        '#c3ccc8',
        of(({ left = 0, wonBack = 0 }) => (left ?? 0) - (wonBack ?? 0)),
      ),
    ],
  };
}
