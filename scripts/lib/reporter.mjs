// Says of each test file how it went, at once what failed, and keeps all results for scripts/test.mjs.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { SourceMap } from 'node:module';
import { dirname, join, relative } from 'node:path';

const nameOf = (path) =>
  relative(process.cwd(), path)
    .replace(/^dist\/tests\//, 'packages/')
    .replace(/\.mjs$/, '.ts');

/** Where a place in a built file comes from. Only what failed asks: a process that maps all it loads computes a tenth more. */
function sourceOf(built, line, column) {
  const map = `${built}.map`;
  if (!existsSync(map)) return null;
  const { originalSource, originalLine, originalColumn } = new SourceMap(JSON.parse(readFileSync(map, 'utf8'))).findEntry(
    line - 1,
    column - 1,
  );
  if (originalSource === undefined) return null;
  return `${relative(process.cwd(), join(dirname(built), originalSource))}:${originalLine + 1}:${originalColumn + 1}`;
}

/** A message with places in the sources instead of those in built files. */
const inSources = (message) =>
  message.replace(
    /(?:file:\/\/)?(\/[^\s()?]*\.mjs)(?:\?\d+)?:(\d+):(\d+)/g,
    (all, file, line, column) => sourceOf(file, Number(line), Number(column)) ?? all,
  );

export default class Reporter {
  #under = new Set();
  #tests = [];

  onTestFileStart({ path }) {
    this.#under.add(nameOf(path));
    this.#note();
  }

  onTestFileResult({ path }, result) {
    const file = nameOf(path);
    this.#under.delete(file);
    this.#note();
    const before = this.#tests.length;
    for (const { ancestorTitles, title, status, duration, failureMessages } of result.testResults) {
      // What was not asked for (--match) was not left out.
      if (process.env.INKWELL_MATCH && status === 'pending') continue;
      this.#tests.push({
        file,
        name: [...ancestorTitles, title].join(' › '),
        status: status === 'pending' ? 'skipped' : status,
        ms: duration ?? 0,
        message: inSources(failureMessages.join('\n')),
      });
    }
    if (result.testExecError) {
      const { message, stack } = result.testExecError;
      this.#tests.push({ file, name: 'can’t be run', status: 'failed', ms: 0, message: inSources(stack || message) });
    }
    const own = this.#tests.slice(before);
    if (own.length === 0) return;
    const failed = own.filter(({ status }) => status === 'failed');
    const seconds = own.reduce((sum, { ms }) => sum + ms, 0) / 1000;
    console.log(`${failed.length ? '✗' : '✓'} ${file}  ${own.length} in ${seconds.toFixed(1)} s`);
    for (const { name, message } of failed) console.log(`  ✗ ${name}\n${message}`);
  }

  onRunComplete() {
    writeFileSync(process.env.INKWELL_REPORT, JSON.stringify(this.#tests));
  }

  /** What is under way, for whoever ends a run that hangs. */
  #note() {
    writeFileSync(`${process.env.INKWELL_REPORT}.under`, [...this.#under].join(', '));
  }
}
