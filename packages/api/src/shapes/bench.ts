import * as z from 'zod';

const Alarm = z.object({ at: z.number(), words: z.string() });

/** A file that a machine holds. */
export const HeldFile = z.object({
  file: z.string(),
  /** Who sent it when; null for one that somebody else laid there. */
  sent: z.object({ at: z.string(), by: z.string() }).nullable(),
  /** What the machine says that it got; null as long as it says nothing. */
  says: z.object({ time: z.string(), runs: z.boolean(), alarms: z.array(Alarm), seconds: z.number() }).nullable(),
  /** Whether the machine got other bytes than were sent. */
  other: z.boolean(),
  /** The copy that its bytes are; null where they are none of ours. */
  copy: z
    .object({
      id: z.string(),
      recipe: z.string(),
      /** The copy that stands in its place now; null where there is none. */
      now: z.string().nullable(),
      label: z.string(),
      rev: z.number(),
      master: z.string(),
      title: z.string(),
      head: z.number(),
      stands: z.enum(['in step', 'accepted', 'behind', 'withdrawn', 'not checked']),
      /** Which change ended it. */
      why: z.string(),
    })
    .nullable(),
});
export type HeldFile = z.infer<typeof HeldFile>;

/** A job that somebody let a machine run. */
export const RunView = z.object({
  id: z.string(),
  file: z.string(),
  /** How it stood then, in words. */
  stood: z.string(),
  reason: z.string(),
  at: z.string(),
  by: z.string(),
  /** What the machine says of it; null while it runs. */
  ended: z.object({ runs: z.boolean(), seconds: z.number(), alarms: z.array(Alarm) }).nullable(),
});
export type RunView = z.infer<typeof RunView>;

export const MachineView = z.object({
  id: z.string(),
  name: z.string(),
  language: z.string(),
  area: z.object({ width: z.number(), height: z.number() }),
  /** Whether it answers. */
  there: z.boolean(),
  holds: z.array(HeldFile),
  runs: z.array(RunView),
});
export type MachineView = z.infer<typeof MachineView>;

export const BenchView = z.object({ machines: z.array(MachineView) });
export type BenchView = z.infer<typeof BenchView>;
