import type { ChartPlan, ChartSeries } from '@inkwell-twin/core';
import { init, use } from 'echarts/core';
import { BarChart, LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, LegendComponent } from 'echarts/components';
import { SVGRenderer } from 'echarts/renderers';

use([BarChart, LineChart, ScatterChart, GridComponent, LegendComponent, SVGRenderer]);

/** Pixels to a millimetre. */
const PX = 96 / 25.4;
const FONT = 'Work Sans';
const INK = '#14213a';
/** Lines that can be told apart in print, too. */
const COLOURS = ['#17796a', '#b26a00', '#2b4180', '#7b2f86', '#c23b22', '#46546d', '#55744f', '#9a5b2e'];
const SHAPES = ['circle', 'rect', 'triangle', 'diamond'];
const TYPES = { lines: 'line', bars: 'bar', points: 'scatter' } as const;
const DAY = 86_400_000;

const dayInWords = (value: number): string => new Date(value).toISOString().slice(0, 10);

/** Of the letters of the font, how far their middle stands above the line that they stand on. */
const MIDDLE = 0.35;

/** The library's drawing without what moves under a pointer, and its words by the lines that they stand on. */
const plainSvg = (drawn: string): string =>
  drawn
    .replace(/<style[^>]*>[\s\S]*?<\/style>/g, '')
    // What it remembers of its own data.
    .replace(/ ecmeta_\w+="[^"]*"/g, '')
    .replace(/ class="[^"]*"/g, '')
    // The library counts the charts that it drew.
    .replace(/zr\d+-/g, 'part-')
    .replace(/<text\b[^>]*>/g, (tag) => {
      const size = Number(/font-size:\s*([\d.]+)px/.exec(tag)?.[1] ?? 12);
      return tag.replace(/ dominant-baseline="central"/, ` dy="${Number((MIDDLE * size).toFixed(3))}"`);
    });

/** A chart as Apache ECharts draws it, without motion, as vectors. */
export function drawChart({ width, height, size, form, scale, across, up, series }: ChartPlan): string {
  const letters = { fontFamily: FONT, fontSize: size * PX, color: INK };
  const place = (value: string | number) => (scale === 'days' ? Number(value) * DAY : value);
  const words = scale === 'words' ? [...new Set(series.flatMap(({ points }) => points.map(([one]) => String(one))))] : undefined;
  const axis = {
    axisLine: { show: true, lineStyle: { color: INK, width: 1 } },
    axisTick: { lineStyle: { color: INK } },
    axisLabel: letters,
    nameTextStyle: letters,
  };
  // The names of what is drawn stand above it, in as many lines as they need.
  const named = series.reduce((sum, { name }) => sum + 4.4 + 0.6 * name.length, 0);
  const rows = series.length > 1 ? Math.ceil((named * size) / (0.9 * width)) : 0;
  const chart = init(null, null, { renderer: 'svg', ssr: true, width: width * PX, height: height * PX });
  try {
    chart.setOption({
      animation: false,
      color: COLOURS,
      textStyle: { fontFamily: FONT },
      legend:
        series.length > 1
          ? { top: 0, left: 'center', itemWidth: 2.2 * size * PX, itemHeight: size * PX, textStyle: letters }
          : undefined,
      grid: {
        left: size * PX,
        right: 1.5 * size * PX,
        top: (2 + 1.7 * rows) * size * PX,
        bottom: 2.2 * size * PX,
        outerBoundsMode: 'same',
        outerBoundsContain: 'axisLabel',
      },
      xAxis: {
        ...axis,
        type: scale === 'words' ? 'category' : scale === 'days' ? 'time' : 'value',
        name: across,
        nameLocation: 'middle',
        nameGap: 2.3 * size * PX,
        splitLine: { show: false },
        ...(words ? { data: words } : { scale: true }),
        axisLabel: { ...letters, hideOverlap: true, ...(scale === 'days' ? { formatter: dayInWords } : {}) },
      },
      yAxis: {
        ...axis,
        type: 'value',
        name: up,
        nameLocation: 'end',
        nameTextStyle: { ...letters, align: 'left' },
        scale: form !== 'bars',
        splitLine: { lineStyle: { color: '#c9d4ce', width: 0.6 } },
      },
      series: series.map(({ name, points }: ChartSeries, i) => ({
        type: TYPES[form],
        name,
        data: points.map(([one, value]) => [place(one), value]),
        symbol: SHAPES[i % SHAPES.length],
        symbolSize: 1.5 * size * PX * 0.7,
        lineStyle: { width: 0.4 * PX },
      })),
    });
    return plainSvg(chart.renderToSVGString());
  } finally {
    chart.dispose();
  }
}
