import { ELSEWHERE, tryElsewhere } from '../packages/core/test/faults/elsewhere';

/** How often each change by other hands is made, from a seed that the tests do not have. */
const [SEED, ROUNDS] = [20_261_205, 5];

/** Copies that lxml, ezdxf and lists of what machines are told change. */
export async function benchmarkOtherHands(): Promise<Record<string, number>> {
  let [faults, harmless, missed, alarms] = [0, 0, 0, 0];
  for (const one of ELSEWHERE) {
    const found = await tryElsewhere(one, SEED, ROUNDS);
    for (const words of found.wrong) console.log(`${one.name}: ${words}`);
    faults += found.faults.length;
    harmless += found.harmless.length;
    missed += found.wrong.filter((words) => words.startsWith('missed')).length;
    alarms += found.wrong.filter((words) => words.startsWith('alarm')).length;
  }
  return {
    'faults by other hands tried': faults,
    'faults by other hands caught, %': (100 * (faults - missed)) / faults,
    'harmless changes by other hands tried': harmless,
    'false alarms of those, %': (100 * alarms) / harmless,
  };
}
