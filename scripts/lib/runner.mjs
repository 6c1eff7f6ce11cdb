import LightRunner from 'jest-light-runner/child-process';

/**
 * The way between this process and one that runs tests: it asks what it has to know once it is ready, and only it is answered.
 * @param workerData what it has to know
 */
export function channelOf(workerData) {
  const listeners = new Set();
  return {
    onMessage: (listener) => listeners.add(listener),
    postMessage: (message) => {
      if (message !== 'jest-light-runner-get-worker-data') return;
      for (const listener of listeners) listener({ type: 'jest-light-runner-worker-data', workerData });
      listeners.clear();
    },
  };
}

/**
 * The runner of tests, each in one of a few processes. That of the package has one channel for all of them: whoever asks first is
 * answered for all, and one that was still loading then waits for ever, with its file of tests. Here each file has its own.
 */
export default class Runner extends LightRunner {
  _runTest(test) {
    const config = test.context.config;
    const known = this._testRunners.get(config);
    if (known) return known.run(test);
    // The first makes the processes; nobody else is on its channel.
    const running = super._runTest(test);
    const { pool } = this._testRunners.get(config);
    const workerData = { globalConfig: this._globalConfig, projectConfig: config, runtime: this._runtime };
    const isApart = this._runtime === 'child_process';
    const run = (one) => pool.run(one.path, isApart ? { channel: channelOf(workerData) } : undefined);
    this._testRunners.set(config, { pool, run });
    return running;
  }
}
