import { lstatSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Item, newMaster } from '@inkwell-twin/core';
import type pg from 'pg';
import { RunningWorkshop, percentile, timed } from './running';

const MASTERS = 1_000;
const REVISIONS = 100;
const COPIES = 30;

/** A Desk of many masters, written as rows: they are what a workshop would have after years. */
async function fill(client: pg.Client, shelf: string): Promise<void> {
  const item: Item = {
    kind: 'rectangle',
    id: 'r1',
    layer: 'layer-1',
    style: { fill: null, stroke: '#14213a', strokeWidth: 0.3 },
    x: 1,
    y: 1,
    width: 4,
    height: 3,
    radius: 0,
  };
  const start = newMaster('bench', 'Panel', 'Ines Okoro', 'panel');
  const document = { ...start, boards: [{ ...start.boards[0]!, items: [item] }] };
  const bytes = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>\n');
  await client.query("insert into blob values ('b1', $1)", [bytes.length]);
  for (let m = 0; m < MASTERS; m++) {
    const id = `bench-${String(m).padStart(4, '0')}`;
    const folder = `panel_${m}`;
    mkdirSync(join(shelf, folder));
    const native = join(shelf, folder, `${folder}.inkwell`);
    writeFileSync(native, 'x');
    const written = lstatSync(native, { bigint: true });
    await client.query(
      `insert into master (id, title, folder, head, owner, part_names, objects, file_sha256, file_rev, file_stamp, created_at)
       values ($1, $2, $3, ${REVISIONS}, 'Ines Okoro', $4, 1, 'x', ${REVISIONS}, $6, now() - interval '1 hour' + $5 * interval '1 second')`,
      [
        id,
        `Panel ${m}`,
        folder,
        JSON.stringify({ boards: [{ id: 'board-1', name: 'Front' }] }),
        m,
        `${written.size} ${written.mtimeNs} ${written.ino}`,
      ],
    );
    await client.query(
      `insert into revision (master, rev, time, author, message, patches, document)
       select $1, rev, now() - (${REVISIONS} - rev) * interval '1 day', 'Ines Okoro', 'Spacing of the holes ' || rev,
              case when rev = 1 then '[]'::json else json_build_array(json_build_object('op', 'set', 'node', 'r1', 'attribute', 'x', 'value', rev)) end,
              case when rev = 1 then $2::json end
         from generate_series(1, ${REVISIONS}) as rev`,
      [id, JSON.stringify({ ...document, id, title: `Panel ${m}` })],
    );
    const copies = Array.from({ length: COPIES }, (_, c) => {
      const file = `copy_${c}.svg`;
      writeFileSync(join(shelf, folder, file), bytes);
      const { size, mtimeNs, ino } = lstatSync(join(shelf, folder, file), { bigint: true });
      return { id: `${id}-${c}`, file, stamp: `${size} ${mtimeNs} ${ino}`, until: 40 + ((m + c * 7) % 61) };
    });
    const column = <T>(value: (copy: (typeof copies)[number]) => T) => copies.map(value);
    await client.query(
      `insert into recipe (id, master, label, target, options, scope, pattern)
       select 'r-' || id, $2, 'copy ' || id, 'svg', '{"text":"text","precision":3}', '{"of":"boards","ids":["board-1"]}', '{title}_r{rev}' from unnest($1::text[]) as id`,
      [column(({ id: copy }) => copy), id],
    );
    await client.query(
      `insert into copy (id, recipe, rev, file, sha256, size, says, footprint, state)
       select id, 'r-' || id, 40, file, 'b1', $3, 'says', 'footprint', 'live' from unnest($1::text[], $2::text[]) as given (id, file)`,
      [column(({ id: copy }) => copy), column(({ file }) => file), bytes.length],
    );
    await client.query(
      `insert into standing (copy, head, footprint, until, ended_by, verdict, remark, proof, checked_footprint, file_sha256, file_stamp, checked_at)
       select id, ${REVISIONS}, 'now', until, case when until < ${REVISIONS} then 'r' || until + 1 || ' changed rectangle' end,
              case when until < ${REVISIONS} then 'behind' else 'in step' end, '', 'Read back, it has 1 difference.', 'now', 'x', stamp, now()
         from unnest($1::text[], $2::integer[], $3::text[]) as given (id, until, stamp)`,
      [column(({ id: copy }) => copy), column(({ until }) => until), column(({ stamp }) => stamp)],
    );
    await client.query('insert into picture values ($1, $2, $3)', [id, REVISIONS, bytes]);
  }
  await client.query('analyze');
}

/** A Desk of 1,000 masters with 100 revisions and 30 copies each: its first page, one row, the start, memory. */
export async function benchmarkDesk(): Promise<Record<string, number>> {
  const workshop = await RunningWorkshop.start(fill);
  try {
    const started = await workshop.restartServer();
    const first = await workshop.call<{ masters: unknown[] }>('GET', '/api/desk');
    if (first.body.masters.length !== 24) throw new Error('The first page is not a page.');
    const page: number[] = [];
    const row: number[] = [];
    for (let i = 0; i < 20; i++) {
      page.push(await timed(() => workshop.call('GET', '/api/desk')));
      row.push(await timed(() => workshop.call('GET', `/api/desk/bench-${String(i * 37).padStart(4, '0')}`)));
    }
    const laid = async (query: string): Promise<number> => {
      const times = [];
      for (let i = 0; i < 8; i++) times.push(await timed(() => workshop.call('GET', `/api/desk?${query}`)));
      return percentile(times, 0.95);
    };
    const [byName, byChange, byTrouble, byFolder, touched] = [
      await laid('order=name'),
      await laid('order=changed'),
      await laid('order=trouble'),
      await laid('group=folder&order=name'),
      await laid('verdict=touched'),
    ];
    const found = await timed(() => workshop.call('GET', '/api/desk?find=panel%2099'));
    // The start looks through the shelf in the background; nothing has changed, so nothing is checked.
    await workshop.idle();
    return {
      'Desk of 1,000 masters: start until it answers, ms': started,
      'Desk of 1,000 masters: first page, ms (p95)': percentile(page, 0.95),
      'Desk of 1,000 masters: first page, kB': first.size / 1000,
      'Desk of 1,000 masters: one row, ms (p95)': percentile(row, 0.95),
      'Desk of 1,000 masters: finding by name, ms': found,
      'Desk of 1,000 masters: in the order of names, ms (p95)': byName,
      'Desk of 1,000 masters: in the order of the last change, ms (p95)': byChange,
      'Desk of 1,000 masters: in the order of what needs someone, ms (p95)': byTrouble,
      'Desk of 1,000 masters: laid together by folder, ms (p95)': byFolder,
      'Desk of 1,000 masters: only those with a touched copy, ms (p95)': touched,
      'Desk of 1,000 masters: memory of the server, MB': workshop.memory(),
    };
  } finally {
    await workshop.stop();
  }
}
