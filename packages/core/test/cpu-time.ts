/**
 * Milliseconds that this process has computed for so far. Limits are set on this and never on the clock: what else the machine
 * does does not count.
 */
export function cpuTime(): number {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
}
