import { LineChart } from 'echarts/charts';
import { GridComponent, MarkPointComponent, TooltipComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { estimatedAt } from './estimated-at';
import { bytesInWords } from '../ui/words';

use([GridComponent, LineChart, MarkPointComponent, SVGRenderer, TooltipComponent]);

/** Draws bytes against dots to the inch; the present choice is marked. Returns how to take the chart away. */
export function drawSizes(element: HTMLElement, points: [number, number][], dpi: number | undefined): () => void {
  const style = getComputedStyle(element);
  const [ink, quiet, signal] = ['--fx-ink', '--fx-quiet', '--fx-signal'].map((name) => style.getPropertyValue(name));
  const colour = (value: string | undefined): string => resolved(element, value ?? 'currentColor');
  const chart = init(element, undefined, { renderer: 'svg' });
  const label = { color: colour(quiet), fontFamily: style.fontFamily };
  chart.setOption({
    animation: false,
    grid: { left: 54, right: 22, top: 18, bottom: 26 },
    tooltip: { trigger: 'axis', valueFormatter: (value: unknown) => bytesInWords(Math.round(Number(value))) },
    xAxis: { type: 'value', min: 0, max: 1200, interval: 200, axisLabel: label },
    yAxis: {
      type: 'value',
      axisLabel: { ...label, formatter: (value: number) => bytesInWords(value) },
      splitNumber: 3,
    },
    series: [
      {
        type: 'line',
        data: points,
        symbolSize: 5,
        lineStyle: { color: colour(ink), width: 1.5 },
        itemStyle: { color: colour(ink) },
        markPoint:
          dpi === undefined
            ? undefined
            : {
                symbol: 'diamond',
                symbolSize: 14,
                itemStyle: { color: colour(signal) },
                label: { show: true, position: 'top', formatter: `${dpi} dpi`, color: colour(signal) },
                data: [{ coord: [dpi, estimatedAt(points, dpi)] }],
              },
      },
    ],
  });
  const watcher = new ResizeObserver(() => chart.resize());
  watcher.observe(element);
  return () => {
    watcher.disconnect();
    chart.dispose();
  };
}

/** A colour of the page as the chart understands it: what it comes to in the light that is on. */
function resolved(element: HTMLElement, value: string): string {
  const probe = document.createElement('i');
  probe.style.color = value;
  element.append(probe);
  const { color } = getComputedStyle(probe);
  probe.remove();
  return color;
}
