import type { Router } from 'express';
import type { Workshop } from '../workshop';
import { SANDBOX, on, personOf } from './handle';
import { sendPacked } from './packed';

export function benchRoutes(router: Router, { bench, compute, jobs }: Workshop): void {
  const told = async <T>(answer: T): Promise<T> => {
    await jobs.event({ kind: 'again', master: '' });
    return answer;
  };
  on(router, 'bench', () => bench.view());
  on(router, 'sendToMachine', async ({ params, body, request }) =>
    told(await bench.send(params['machine']!, body.copy, personOf(request).name)),
  );
  on(router, 'runOnMachine', async ({ params, body, request }) =>
    told(await bench.run(params['machine']!, body.file, personOf(request).name, body.reason)),
  );
  on(router, 'takeFromMachine', async ({ params, body }) => {
    await bench.takeAway(params['machine']!, body.file);
    return told({});
  });
  on(router, 'forStick', async ({ params, request, response }) => {
    const { file, zip } = await bench.stick(params['machine']!, String(request.query['copy'] ?? ''));
    response.attachment(file).set(SANDBOX).send(Buffer.from(zip));
  });
  on(router, 'heldJob', async ({ params, request, response }) => {
    const held = await bench.fileOf(params['machine']!, params['file']!);
    await sendPacked(request, response, await compute.run('lookAtJob', held, { queueKey: 'upload', large: true }));
  });
  on(router, 'machinePicture', async ({ params, response }) => {
    response.set(SANDBOX).send(await bench.picture(params['machine']!, params['file']!));
  });
}
