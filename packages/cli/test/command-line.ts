import { join } from 'node:path';
import { MessageChannel, receiveMessageOnPort, Worker } from 'node:worker_threads';

/**
 * What the thread does: runs what it is sent and answers with what was said; one command line after the other.
 * Threads have the folder of their process, and remember its name from before.
 */
const THREAD = `
const { workerData } = require('node:worker_threads');
const { port, signal, bundle } = workerData;
const loaded = import(bundle);
port.on('message', async ({ folder, args }) => {
  process.cwd = () => folder;
  const said = { out: '', err: '' };
  console.log = (...words) => void (said.out += words.join(' ') + '\\n');
  console.error = (...words) => void (said.err += words.join(' ') + '\\n');
  let code = -1;
  try {
    code = await (await loaded).run(args);
  } catch (error) {
    said.err += String(error && error.stack);
  }
  port.postMessage({ code, ...said });
  Atomics.store(signal, 0, 1);
  Atomics.notify(signal, 0);
});`;

/** A command line that hangs is given up after this many ms. */
const LONGEST = 1_200_000;

/** The built command line in a thread: loaded once, asked many times, each time waited for. */
export class CommandLine {
  private readonly signal = new Int32Array(new SharedArrayBuffer(4));
  private readonly channel = new MessageChannel();
  private readonly thread = new Worker(THREAD, {
    eval: true,
    workerData: {
      port: this.channel.port2,
      signal: this.signal,
      bundle: `file://${join(__dirname, '../../../dist/node/twin.mjs')}`,
    },
    transferList: [this.channel.port2],
  });

  /** @param folder  where the command line is run */
  run(folder: string, args: readonly string[]): { code: number; out: string; err: string } {
    const before = process.cwd();
    process.chdir(folder);
    try {
      Atomics.store(this.signal, 0, 0);
      this.channel.port1.postMessage({ folder, args });
      if (Atomics.wait(this.signal, 0, 0, LONGEST) === 'timed-out') throw new Error(`twin ${args.join(' ')} did not end.`);
      return receiveMessageOnPort(this.channel.port1)!.message;
    } finally {
      process.chdir(before);
    }
  }

  async close(): Promise<void> {
    this.channel.port1.close();
    await this.thread.terminate();
  }
}
