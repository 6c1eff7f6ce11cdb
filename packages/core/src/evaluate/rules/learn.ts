import type { FontName } from '../../document/faces';
import type { Master, Style } from '../../document/schema';
import { allNodes } from '../../document/tree';
import { HouseRules } from './house';

/** The standards that a master keeps to, as the beginning of rules: its layers, widths and patterns of lines, fonts and symbols. */
export function standardsOf(master: Master): Pick<HouseRules, 'layers' | 'widths' | 'lines' | 'fonts' | 'symbols'> {
  const widths = new Set<number>();
  const dashes = new Map<string, readonly number[]>();
  const fonts = new Set<FontName>();
  for (const node of allNodes(master)) {
    const { style, font, runs } = node as { style?: Style; font?: FontName; runs?: readonly { font?: FontName }[] };
    if (style?.stroke && style.strokeWidth > 0) {
      widths.add(Number(style.strokeWidth.toFixed(4)));
      if (style.dash?.some((length) => length > 0)) dashes.set(style.dash.join(' '), style.dash);
    }
    for (const one of [font, ...(runs ?? []).map((run) => run.font)]) if (one) fonts.add(one);
  }
  const { shape } = HouseRules;
  return {
    layers: master.layers.map(({ name, process, colour }) => ({ name, process, colour })),
    widths: [...widths].sort((a, b) => a - b).slice(0, 50),
    lines: [...dashes.values()].slice(0, 50).map((dash, i) => ({ name: `line ${i + 1}`, dash: [...dash] })),
    fonts: shape.fonts.parse([...fonts]),
    symbols: master.symbols.map(({ name }) => name),
  };
}
