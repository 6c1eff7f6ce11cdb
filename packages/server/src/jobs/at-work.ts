import type { AnswerOf, WorkView } from '@inkwell-twin/api';
import type { Database } from '../database/database';
import type { JobData } from './jobs';
import { QUEUES } from './queues';

/** How many jobs are named. */
const SHOWN = 100;

interface JobRow {
  readonly id: string;
  readonly data: JobData;
  readonly title: string;
  readonly active: boolean;
  readonly total: number;
}

/** What is under way and what waits, over all masters: those under way first, then in the order in which they come. */
export async function atWork(database: Database): Promise<Pick<AnswerOf<'work'>, 'jobs' | 'total'>> {
  const rows = await database.rows<JobRow>(
    `select job.id, job.data, master.title, job.state = 'active' as active, count(*) over ()::integer as total
       from pgboss.job join master on master.id = job.data->>'master'
      where job.name = any ($1) and job.state < 'completed'
      order by job.state = 'active' desc, job.priority desc, job.created_on, job.id limit $2`,
    [[...QUEUES], SHOWN],
  );
  const jobs = rows.map(({ id, data, title, active }): WorkView => ({
    job: id,
    kind: data.kind,
    label: data.label,
    master: { id: data.master, title },
    state: active ? 'running' : 'waiting',
  }));
  return { total: rows[0]?.total ?? 0, jobs };
}
