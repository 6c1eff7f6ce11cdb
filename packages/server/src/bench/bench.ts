import { randomUUID } from 'node:crypto';
import { zipSync } from 'fflate';
import type { BenchView, HeldFile, MachineView, RunView } from '@inkwell-twin/api';
import {
  Failure,
  type MachineProfile,
  declarationOf,
  machineOf,
  machineWord,
  machinesOf,
  optionFields,
} from '@inkwell-twin/core';
import { blobChunks, readBlob } from '../blobs/blobs';
import type { CopyRow } from '../copies/rows';
import type { Database } from '../database/database';
import { houseOf } from '../house/house';
import { copiesByBytes } from './held';
import type { MachineFolders, MachineSays } from './folders';

/** The same copy gives the same bytes. */
const FIXED = new Date('1980-01-01T00:00:00');
/** So many runs of a machine are shown. */
const SHOWN = 20;

interface RunRow {
  readonly id: string;
  readonly machine: string;
  readonly file: string;
  readonly stood: string;
  readonly reason: string;
  readonly at: Date;
  readonly by: string;
  readonly said: MachineSays | null;
}

/** The machines of the house: what is sent to them, what they hold, what they ran. */
export class Bench {
  constructor(
    private readonly database: Database,
    readonly folders: MachineFolders,
  ) {}

  private async machines(): Promise<MachineProfile[]> {
    return machinesOf((await houseOf(this.database)).rules.machines);
  }

  private async machine(id: string): Promise<MachineProfile> {
    const found = (await this.machines()).find((one) => one.id === id);
    if (!found) throw new Failure('not-found', 'There is no such machine in this house.');
    return found;
  }

  /** All machines, with what they hold and how that stands. */
  async view(): Promise<BenchView> {
    const machines = await this.machines();
    return { machines: await Promise.all(machines.map((machine) => this.viewOf(machine))) };
  }

  private async viewOf(machine: MachineProfile): Promise<MachineView> {
    const { id, name, language, area } = machine;
    const [there, holds] = [await this.folders.isThere(id), await this.holds(id)];
    return { id, name, language, area: { width: area.width, height: area.height }, there, holds, runs: await this.runs(id) };
  }

  /** What lies in the folder of a machine, with what it says of it. */
  private async holds(machine: string): Promise<HeldFile[]> {
    const names = await this.folders.names(machine, 'holds');
    const said = await Promise.all(names.map(async (file) => ({ file, says: await this.folders.said(machine, 'said', file) })));
    const sent = await this.database.rows<{ file: string; sha256: string; at: Date; by: string }>(
      'select distinct on (file) file, sha256, at, by from sent where machine = $1 and file = any ($2) order by file, at desc',
      [machine, names],
    );
    const copies = await copiesByBytes(this.database, [
      ...said.flatMap(({ says }) => (says ? [says.sha256] : [])),
      ...sent.map(({ sha256 }) => sha256),
    ]);
    return said.map(({ file, says }): HeldFile => {
      const ours = sent.find((one) => one.file === file);
      const copy = copies.get(says?.sha256 ?? ours?.sha256 ?? '');
      return {
        file,
        sent: ours ? { at: ours.at.toISOString(), by: ours.by } : null,
        says: says && { time: says.time, runs: says.runs, alarms: says.alarms.slice(0, 5), seconds: says.seconds },
        other: says !== null && ours !== undefined && says.sha256 !== ours.sha256,
        copy: copy ? { ...copy } : null,
      };
    });
  }

  /** What a machine ran, the last first; what it said meanwhile is put on record. */
  private async runs(machine: string): Promise<RunView[]> {
    const rows = await this.database.rows<RunRow>('select * from run where machine = $1 order by at desc, id limit $2', [
      machine,
      SHOWN,
    ]);
    return Promise.all(
      rows.map(async ({ id, file, stood, reason, at, by, said }): Promise<RunView> => {
        const says = said ?? (await this.folders.said(machine, 'ran', id));
        if (says && !said) await this.database.rows('update run set said = $2 where id = $1 and said is null', [id, says]);
        const ended = says && { runs: says.runs, seconds: says.seconds, alarms: says.alarms.slice(0, 5) };
        return { id, file, stood, reason, at: at.toISOString(), by, ended };
      }),
    );
  }

  /**
   * Lays a copy into the folder of a machine, as it was written. What that held of the same copy goes.
   * @throws Failure `not-found`, `machine-unknown` for a copy that is not for it
   */
  async send(machineId: string, copy: string, by: string): Promise<{ file: string }> {
    const machine = await this.machine(machineId);
    const row = await this.copyRow(copy);
    assertFor(row, machine);
    const file = [...row.folder.split('/'), row.file].join('_');
    const earlier = await this.database.rows<{ file: string }>(
      'select distinct sent.file from sent join copy on copy.id = sent.copy where sent.machine = $1 and copy.recipe = $2',
      [machine.id, row.recipe],
    );
    // On record first: bytes that lie there and that nobody knows of would be a stranger's.
    await this.database.rows('insert into sent (id, machine, file, copy, sha256, by) values ($1, $2, $3, $4, $5, $6)', [
      randomUUID(),
      machine.id,
      file,
      row.id,
      row.sha256,
      by,
    ]);
    await this.folders.put(machine.id, 'holds', file, blobChunks(this.database, row.sha256));
    for (const one of earlier) if (one.file !== file) await this.folders.remove(machine.id, one.file);
    return { file };
  }

  /**
   * A copy as a machine reads it from a stick: in the folder of the machine, with its checksum beside it.
   * @throws Failure `not-found`, `machine-unknown`
   */
  async stick(machineId: string, copy: string): Promise<{ file: string; zip: Uint8Array }> {
    const machine = await this.machine(machineId);
    const row = await this.copyRow(copy);
    assertFor(row, machine);
    const bytes = new Uint8Array(await readBlob(this.database, row.sha256));
    const sums = new TextEncoder().encode(`${row.sha256}  ${row.file}\n`);
    return {
      file: `${machine.id}_${row.file}.zip`,
      zip: zipSync({ [`${machine.id}/${row.file}`]: bytes, [`${machine.id}/SHA256SUMS`]: sums }, { mtime: FIXED }),
    };
  }

  private async copyRow(copy: string): Promise<CopyRow> {
    const [row] = await this.database.rows<CopyRow>('select * from copy_now where id = $1', [copy]);
    if (!row) throw new Failure('not-found', 'This copy is not on the list any more: it was derived again or withdrawn.');
    return row;
  }

  private async held(machine: string, file: string): Promise<HeldFile> {
    const found = (await this.holds(machine)).find((one) => one.file === file);
    if (!found) throw new Failure('not-found', 'The machine does not hold this any more.');
    return found;
  }

  /**
   * Lets a machine run what it holds.
   * @param reason why it is run although it is outdated, or not ours
   * @throws Failure `reason-missing`, `not-found`, `busy` as long as the machine has not said what it got
   */
  async run(machineId: string, file: string, by: string, reason: string): Promise<{ id: string }> {
    const { id: machine, name } = await this.machine(machineId);
    const held = await this.held(machine, file);
    const says = await this.folders.said(machine, 'said', file);
    if (!says) throw new Failure('busy', `The ${name} has not said yet what it got. Let it look at the file first.`);
    const stood = standsInWords(held);
    if (!isRight(held) && !reason.trim())
      throw new Failure('reason-missing', `“${file}” ${stood}. Say why it is run all the same; that is put on record.`);
    const id = randomUUID();
    await this.database.rows(
      'insert into run (id, machine, file, sha256, copy, stood, reason, by) values ($1, $2, $3, $4, $5, $6, $7, $8)',
      [id, machine, file, says.sha256, held.copy?.id ?? null, stood, reason.trim(), by],
    );
    await this.folders.put(machine, 'run', `${id}.json`, JSON.stringify({ file }));
    return { id };
  }

  /** Takes a file away from a machine. @throws Failure `not-found` */
  async takeAway(machineId: string, file: string): Promise<void> {
    const { id } = await this.machine(machineId);
    await this.held(id, file);
    await this.folders.remove(id, file);
  }

  /** Where a file lies that a machine holds, with that machine as an option names it. @throws Failure `not-found`, `too-large` */
  async fileOf(machineId: string, file: string): Promise<{ path: string; name: string; machine: string }> {
    const machine = await this.machine(machineId);
    return { path: await this.folders.heldAt(machine.id, file), name: file, machine: machineWord(machine) };
  }

  /** What a machine drew of a file that it holds, or of a run. @throws Failure `not-found` */
  async picture(machineId: string, of: string): Promise<Buffer> {
    const { id } = await this.machine(machineId);
    const part = (await this.folders.names(id, 'holds')).includes(of) ? 'said' : 'ran';
    return this.folders.picture(id, part, of);
  }
}

/** What may be run without a word: it is as it was sent, and the master says the same. */
const isRight = ({ other, copy }: HeldFile): boolean => !other && (copy?.stands === 'in step' || copy?.stands === 'accepted');

function standsInWords({ other, copy }: HeldFile): string {
  if (other) return 'is not what was sent there';
  if (!copy) return 'is of nobody knows what';
  return copy.stands === 'behind'
    ? `is of r${copy.rev}, and behind: the master is at r${copy.head}`
    : `is ${copy.stands}, of r${copy.rev}`;
}

/** @throws Failure `machine-unknown` */
function assertFor({ target, options, label }: Pick<CopyRow, 'target' | 'options' | 'label'>, machine: MachineProfile): void {
  const field = optionFields(declarationOf(target)).find(({ kind }) => kind === 'machine');
  if (!field) throw new Failure('machine-unknown', `“${label}” is for no machine.`);
  const word = String(options[field.name] ?? '');
  const own = word ? machineOf(word) : null;
  if (own ? own.id !== machine.id : field.language !== machine.language)
    throw new Failure(
      'machine-unknown',
      `“${label}” is for ${own ? `the ${own.name}` : `machines that take ${field.language}`}, not for the ${machine.name}. Derive a copy for that one.`,
    );
}
