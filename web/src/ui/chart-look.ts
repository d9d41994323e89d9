import type { ECharts } from 'echarts/core';

/** Colours of the theme as charts understand them: what they come to in the light that is on. */
export function chartColours(element: HTMLElement, names: readonly string[]): string[] {
  const style = getComputedStyle(element);
  const probe = document.createElement('i');
  element.append(probe);
  const colours = names.map((name) => {
    probe.style.color = style.getPropertyValue(name) || 'currentColor';
    return getComputedStyle(probe).color;
  });
  probe.remove();
  return colours;
}

/** Has a chart follow the size of its element. Returns how to take it away. */
export function keepSized(element: HTMLElement, chart: ECharts): () => void {
  const watcher = new ResizeObserver(() => chart.resize());
  watcher.observe(element);
  return () => {
    watcher.disconnect();
    chart.dispose();
  };
}
