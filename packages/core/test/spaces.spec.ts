import { walkXml } from '../src/base/bytes/walk-xml';

/** Names of elements, closed ones with a stroke, and of attributes, as readers get them. */
function namesIn(text: string): string[] {
  const names: string[] = [];
  walkXml(new TextEncoder().encode(text), 'part.xml', {
    open: (name, attributes) => names.push(name, ...Object.keys(attributes).filter((one) => !one.startsWith('xmlns'))),
    close: (name) => names.push(`/${name}`),
  });
  return names;
}

const OURS = 'urn:oasis:names:tc:opendocument:xmlns:text:1.0';

describe.each([
  ['plain', ''],
  ['with a note, by the full parser', '<!-- n -->'],
])('names in parts of packages, %s', (_, note) => {
  it('lose their prefixes, whichever a writer chose', () => {
    expect(namesIn(`<a:p xmlns:a="${OURS}" a:n="1">${note}<a:s/></a:p>`)).toEqual(['p', 'a:n', 's', '/s', '/p']);
    expect(namesIn(`<p xmlns="${OURS}">${note}</p>`)).toEqual(['p', '/p']);
  });
  it('are others where somebody else owns them, as far as that reaches', () => {
    expect(namesIn(`<a:p xmlns:a="${OURS}" xmlns:b="urn:somebody" b:n="1">${note}<b:s/></a:p>`)).toEqual([
      ...['p', '{b}n', '{b}s', '/{b}s', '/p'],
    ]);
    expect(namesIn(`<a:p xmlns:a="${OURS}">${note}<a:s xmlns:a="urn:somebody"/><a:s/></a:p>`)).toEqual([
      ...['p', '{a}s', '/{a}s', 's', '/s', '/p'],
    ]);
    expect(namesIn(`<p xmlns="${OURS}">${note}<s xmlns="urn:somebody" n="1"><t xmlns="${OURS}"/></s></p>`)).toEqual([
      ...['p', '{}s', 'n', 't', '/t', '/{}s', '/p'],
    ]);
  });
  it('count as known where nothing is said of them', () => expect(namesIn(`<c:p>${note}</c:p>`)).toEqual(['p', '/p']));
});
