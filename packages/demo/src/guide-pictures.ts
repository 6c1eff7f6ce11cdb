import { type PictureEngine, type Resource, digest, heldRows } from '@inkwell-twin/core';

/** Numbers that look thrown, the same each time. */
function dice(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}
const n = (value: number): string => value.toFixed(1);

/** The walk round the fen from above. */
function mapOfTheWalk(): string {
  const posts = [
    [120, 470],
    [230, 410],
    [330, 300],
    [470, 240],
    [620, 200],
    [760, 260],
    [800, 390],
    [660, 470],
    [480, 500],
    [300, 520],
  ] as const;
  const way = `M${posts.map(([x, y]) => `${x} ${y}`).join('L')}Z`;
  const marks = posts.map(
    ([x, y], i) =>
      `<circle cx="${x}" cy="${y}" r="17" fill="#14213a"/><path d="M${x - 5} ${y + 6}h10M${x} ${y - 7}v13" stroke="#ebf0ed" stroke-width="${i % 2 ? 3 : 4}"/>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 920 600"><path fill="#dfe8df" d="M0 0h920v600H0z"/><path fill="#a9c5c9" d="M360 330q90-70 230-40t100 100q-30 60-170 60t-190-40q-30-40 30-80z"/><path fill="#c3d6b4" d="M40 90q140-70 290-20t210 40q120 20 190-40t190-20v-50H40z"/><path d="${way}" fill="none" stroke="#9a5b2e" stroke-width="11" stroke-linejoin="round"/><path d="${way}" fill="none" stroke="#f4f7f0" stroke-width="3" stroke-dasharray="14 12" stroke-linejoin="round"/>${marks.join('')}</svg>`;
}

/** Reeds before water in the evening. */
function reeds(): string {
  const throwOne = dice(41);
  const blades = Array.from({ length: 90 }, () => {
    const [x, height, lean] = [920 * throwOne(), 170 + 240 * throwOne(), 60 * (throwOne() - 0.5)];
    const shade = ['#2c4a3e', '#3d5e49', '#55744f', '#1f3a35'][Math.floor(4 * throwOne())]!;
    const top = 600 - height;
    return `<path d="M${n(x)} 600Q${n(x + lean / 4)} ${n(600 - height / 2)} ${n(x + lean)} ${n(top)}" stroke="${shade}" stroke-width="${n(3 + 4 * throwOne())}" fill="none"/><ellipse cx="${n(x + lean)}" cy="${n(top - 12)}" rx="6" ry="22" fill="#6b4a2f"/>`;
  });
  const bands = Array.from(
    { length: 9 },
    (_, i) =>
      `<path d="M0 ${330 + 28 * i}q230-14 460 0t460 0" stroke="#ffffff" stroke-opacity=".25" stroke-width="3" fill="none"/>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 920 600"><defs><linearGradient id="g" x2="0" y2="1"><stop stop-color="#f1d9b5"/><stop offset=".5" stop-color="#b9cfd2"/><stop offset="1" stop-color="#5f8a92"/></linearGradient></defs><path fill="url(#g)" d="M0 0h920v600H0z"/><circle cx="700" cy="170" r="58" fill="#f7efe0"/>${bands.join('')}${blades.join('')}</svg>`;
}

/** A post with its sign. */
function post(): string {
  return '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 600 600"><path fill="#e8efe9" d="M0 0h600v600H0z"/><path fill="#8a6a48" d="M262 150h76v450h-76z"/><path fill="#a98359" d="M262 150h24v450h-24z"/><path fill="#0f6b5c" d="M120 90h300l80 70-80 70H120z"/><path fill="none" stroke="#f4f7f0" stroke-width="8" d="M140 110h270l58 50-58 50H140z"/><path d="M190 172q30-34 60 0t60 0 60 0" stroke="#f4f7f0" stroke-width="12" fill="none" stroke-linecap="round"/><path fill="#55744f" d="M0 560q150-40 300-12t300-4v56H0z"/></svg>';
}

export interface GuidePicture {
  readonly resource: Resource;
  readonly bytes: Uint8Array;
}

/** The pictures of the visitor guide, drawn here. @param share of their pixels each way */
export async function guidePictures(
  pictures: PictureEngine,
  share: number,
): Promise<Record<'map' | 'reeds' | 'post', GuidePicture>> {
  const make = async (name: string, document: string, width: number, height: number): Promise<GuidePicture> => {
    const [w, h] = [Math.round(width * share), Math.round(height * share)];
    const drawn = await pictures.drawSvg(document, w, h);
    const encoding = { format: 'png', depth: 8, alpha: false, profile: 'sRGB', quality: null, ppi: 200 } as const;
    const bytes = await pictures.encode(heldRows(drawn), encoding);
    const id = digest(bytes);
    return {
      bytes,
      resource: { id, name, mediaType: 'image/png', size: bytes.length, role: 'picture', width: w, height: h, ppi: 200 },
    };
  };
  return {
    map: await make('walk.png', mapOfTheWalk(), 920, 600),
    reeds: await make('reeds.png', reeds(), 920, 600),
    post: await make('post.png', post(), 600, 600),
  };
}
