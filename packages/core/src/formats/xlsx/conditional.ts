import { attributeOf, walkXml } from '../../base/bytes/walk-xml';
import { BLACK, WHITE, colourOf, isLost } from './formats';

/**
 * Which looks of conditional formats only colour and embolden: under them every cell still shows what it holds, as black letters on
 * a white sheet would (ECMA-376-1, 18.8.14).
 * @returns their numbers
 */
export function plainConditions(bytes: Uint8Array | undefined, part: string): ReadonlySet<number> {
  const plain = new Set<number>();
  if (!bytes) return plain;
  let [number, inside, hides, letters, ground] = [-1, '', false, BLACK, WHITE];
  walkXml(bytes, part, {
    open: (name, attributes) => {
      if (name === 'dxf') {
        number++;
        [inside, hides, letters, ground] = ['dxf', false, BLACK, WHITE];
      } else if (!inside) return;
      else if (name === 'font' || name === 'fill' || name === 'border') inside = name;
      else if (inside === 'border' || ['b', 'i', 'u', 'patternFill'].includes(name)) return;
      else if (inside === 'font' && name === 'color') letters = colourOf(attributes, BLACK);
      else if (inside === 'font' && name === 'strike') hides ||= !/^(0|false)$/.test(attributeOf(attributes, 'val') ?? '1');
      // Of a plain fill it is the colour behind the pattern that counts here.
      else if (inside === 'fill' && name === 'bgColor') ground = colourOf(attributes, WHITE);
      else if (inside === 'fill' && name === 'fgColor') hides ||= isLost(BLACK, colourOf(attributes, WHITE));
      else hides = true;
    },
    close: (name) => {
      if (name !== 'dxf') return;
      if (!hides && [letters, ground].every((one) => /^[0-9a-f]{6}$/.test(one)) && !isLost(letters, ground)) plain.add(number);
      inside = '';
    },
  });
  return plain;
}
