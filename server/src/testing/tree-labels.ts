import { newText, type Sign, type Slot } from '@plain-relief/core/sign';
import type { TestServer } from './server.js';

/** A job of the arboretum's, and its sign with slots for a name and for a number that counts, as it is kept (revision 2). */
export interface TreeLabels {
  readonly job: { readonly id: string };
  readonly sign: { readonly id: string; readonly document: Sign };
}

/** @param empty what is done with a row without a name */
export async function treeLabels(server: TestServer, title: string, empty: Slot['empty']): Promise<TreeLabels> {
  const wanted = { customer: 'Fernhollow Arboretum', title: 'Tree labels', dueOn: null, quantity: 30, unit: 'mm' };
  const { body: job } = await server.call<TreeLabels['job']>('POST', '/api/jobs', wanted);
  const { body: sign } = await server.call<TreeLabels['sign']>('POST', `/api/jobs/${job.id}/signs`, { title: 'Label' });
  const document: Sign = {
    ...sign.document,
    title,
    parts: [{ ...newText(sign.document, 'barlow-semibold'), words: '{name}\n{no}' }],
    slots: [
      { name: 'name', empty },
      { name: 'no', empty: 'close', counter: { from: 1, step: 1, digits: 3, form: 'figures' } },
    ],
  };
  await server.call('PUT', `/api/signs/${sign.id}`, { base: 1, document });
  return { job, sign: { ...sign, document } };
}
