import { channelOf } from '../../../scripts/lib/runner.mjs';

const ASKED = 'jest-light-runner-get-worker-data';

describe('the way to a process that runs tests', () => {
  it('answers the one that asks, and leaves those that are still loading to ask themselves', () => {
    const heard: string[] = [];
    const [quick, slow] = ['quick', 'slow'].map((name) => {
      const channel = channelOf({ name });
      channel.onMessage((message) => heard.push(`${name} hears ${JSON.stringify(message)}`));
      return channel;
    });
    quick!.postMessage(ASKED);
    expect(heard).toEqual(['quick hears {"type":"jest-light-runner-worker-data","workerData":{"name":"quick"}}']);
    slow!.postMessage(ASKED);
    expect(heard).toHaveLength(2);
  });
  it('says nothing to whatever else is sent, and answers once', () => {
    const heard: unknown[] = [];
    const channel = channelOf({});
    channel.onMessage((message) => heard.push(message));
    for (const message of ['something else', ASKED, ASKED]) channel.postMessage(message);
    expect(heard).toHaveLength(1);
  });
});
