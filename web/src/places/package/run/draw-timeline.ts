import { CustomChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import type { CustomSeriesRenderItem } from 'echarts';
import { chartColours, keepSized } from '../../../ui/chart-look';
import { durationInWords } from '../../../ui/words';
import type { RunStep } from './run-steps';

use([CustomChart, GridComponent, SVGRenderer, TooltipComponent]);

const BAR_PX = 14;

/** Draws the steps of a run, a row for each worker and one for files. Returns how to take the chart away. */
export function drawTimeline(element: HTMLElement, steps: readonly RunStep[], rows: readonly string[]): () => void {
  const [ink, quiet, signal, line] = chartColours(element, ['--fx-ink', '--fx-quiet', '--fx-signal', '--fx-line']);
  const chart = init(element, undefined, { renderer: 'svg' });
  const label = { color: quiet!, fontFamily: getComputedStyle(element).fontFamily };
  const colours = { made: quiet!, failed: signal!, file: ink! };
  const bar: CustomSeriesRenderItem = (_, api) => {
    const [x, y] = api.coord([api.value(1), api.value(0)]) as [number, number];
    const [end] = api.coord([api.value(2), api.value(0)]) as [number, number];
    const shape = { x, y: y - BAR_PX / 2, width: Math.max(1.5, end - x - 1), height: BAR_PX };
    return { type: 'rect', shape, style: { fill: String(api.visual('color')) } };
  };
  chart.setOption({
    animation: false,
    grid: { left: 64, right: 16, top: 8, bottom: 40 },
    tooltip: {
      formatter: ({ dataIndex }: { dataIndex: number }) => {
        const { name, kind, from, to } = steps[dataIndex]!;
        // Names come from people: as text, never as markup.
        const safe = name.replace(/[<>&]/g, (c) => `&#${c.charCodeAt(0)};`);
        return `${safe}${kind === 'failed' ? ', failed' : ''}: ${durationInWords(to - from)}`;
      },
    },
    xAxis: {
      type: 'value',
      name: 'seconds',
      nameLocation: 'middle',
      nameGap: 24,
      nameTextStyle: label,
      axisLabel: { ...label, formatter: (ms: number) => String(ms / 1000) },
      splitLine: { lineStyle: { color: line } },
    },
    yAxis: { type: 'category', data: [...rows], inverse: true, axisLabel: label, axisTick: { show: false } },
    series: [
      {
        type: 'custom',
        renderItem: bar,
        encode: { x: [1, 2], y: 0 },
        data: steps.map(({ row, kind, from, to }) => ({
          value: [rows.indexOf(row), from, to],
          itemStyle: { color: colours[kind] },
        })),
      },
    ],
  });
  return keepSized(element, chart);
}
