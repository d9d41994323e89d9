import { LineChart } from 'echarts/charts';
import { GridComponent, MarkPointComponent, TooltipComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { bytesInWords } from '@folvex/core';
import { estimatedAt } from '../run/estimated-at';
import { chartColours, keepSized } from '../../../ui/chart-look';

use([GridComponent, LineChart, MarkPointComponent, SVGRenderer, TooltipComponent]);

/** Draws bytes against dots per inch; the present choice is marked. Returns a function that removes the chart. */
export function drawSizes(element: HTMLElement, points: [number, number][], dpi: number | undefined): () => void {
  const [ink, quiet, signal] = chartColours(element, ['--fx-ink', '--fx-quiet', '--fx-signal']) as [
    string,
    string,
    string,
  ];
  const chart = init(element, undefined, { renderer: 'svg' });
  const label = { color: quiet, fontFamily: getComputedStyle(element).fontFamily };
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
        lineStyle: { color: ink, width: 1.5 },
        itemStyle: { color: ink },
        markPoint:
          dpi === undefined
            ? undefined
            : {
                symbol: 'diamond',
                symbolSize: 14,
                itemStyle: { color: signal },
                label: { show: true, position: 'top', formatter: `${dpi} dpi`, color: signal },
                data: [{ coord: [dpi, estimatedAt(points, dpi)] }],
              },
      },
    ],
  });
  return keepSized(element, chart);
}
