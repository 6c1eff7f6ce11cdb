import { type ChartEngine, type ChartPlan, bringInAny } from '@inkwell-twin/core';

/** A chart as an SVG document, a pixel of 1/96 inch each, by Apache ECharts, which is loaded when the first one is drawn. */
export const chartSvg = async (plan: ChartPlan): Promise<string> => (await import('./draw')).drawChart(plan);

/** Charts as the shapes and words of their documents. */
export const chartEngine: ChartEngine = {
  drawn: async (plan, services) => {
    const { master } = await bringInAny(new TextEncoder().encode(await chartSvg(plan)), 'chart.svg', services);
    const { items, height } = master.boards[0]!;
    return { items, height };
  },
};
