// Which test files are begun first where nobody remembers how long they took: those that would keep everyone waiting at the end.
import Sequencer from '@jest/test-sequencer';

const LONG = ['killed', 'solids-faults', 'demo', 'jobs', 'masters', 'twin', 'solids', 'judges', 'laws'];
function rank({ path }) {
  const at = LONG.indexOf(/([^/\\]+)\.spec\.ts$/.exec(path)?.[1]);
  return at < 0 ? LONG.length : at;
}

export default class LongestFirst extends Sequencer {
  sort(tests) {
    return [...super.sort(tests)].sort((a, b) => rank(a) - rank(b));
  }
}
