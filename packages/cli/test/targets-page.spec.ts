import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { targetsPage } from '@inkwell-twin/core';

describe('docs/targets.md', () => {
  it('says what the tables in the code say; renew it with: twin targets --page > docs/targets.md', () =>
    expect(readFileSync(join(__dirname, '../../../docs/targets.md'), 'utf8')).toBe(targetsPage()));
});
