import { BarChart, HeatmapChart, LineChart, SankeyChart } from 'echarts/charts';
import { AriaComponent, GridComponent, MarkLineComponent, TooltipComponent, VisualMapComponent } from 'echarts/components';
import { type EChartsCoreOption, init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

use([LineChart, BarChart, HeatmapChart, SankeyChart, GridComponent, TooltipComponent, MarkLineComponent, VisualMapComponent, AriaComponent, SVGRenderer]);

/** A chart of the size of its place. What it shows stands in the table below it as well, where everybody can read it. */
export default function Chart({
  option,
  label,
  height,
  onPick,
}: {
  option: EChartsCoreOption;
  label: string;
  height: number;
  onPick?: (value: unknown) => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const chart = useRef<ReturnType<typeof init> | null>(null);
  useEffect(() => {
    const place = holder.current;
    if (!place) return;
    const made = init(place, null, { renderer: 'svg' });
    chart.current = made;
    const watch = new ResizeObserver(() => made.resize());
    watch.observe(place);
    return () => {
      watch.disconnect();
      made.dispose();
      chart.current = null;
    };
  }, []);
  useEffect(() => {
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
    chart.current?.setOption(
      { animation: !still, animationDuration: 160, textStyle: { fontFamily: 'Overpass Variable, system-ui, sans-serif', fontSize: 12 }, ...option },
      { notMerge: true },
    );
  }, [option]);
  useEffect(() => {
    const shown = chart.current;
    if (!onPick || !shown) return;
    const pick = ({ value }: { value?: unknown }) => onPick(value);
    shown.on('click', pick as never);
    return () => {
      if (!shown.isDisposed()) shown.off('click', pick as never);
    };
  }, [onPick]);
  return <div ref={holder} data-chart="" role="img" aria-label={label} style={{ height }} />;
}
