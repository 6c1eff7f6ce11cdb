import type { ChartEngine } from '@inkwell-twin/core';

/** Charts by Apache ECharts, which is loaded when the first one is drawn. */
export const chartEngine: ChartEngine = { svg: async (plan) => (await import('./draw')).drawChart(plan) };
