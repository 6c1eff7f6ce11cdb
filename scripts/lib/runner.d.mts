interface Channel {
  onMessage(listener: (message: unknown) => void): void;
  postMessage(message: unknown): void;
}

export function channelOf(workerData: unknown): Channel;
