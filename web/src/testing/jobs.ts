import type { Job } from '@plain-relief/api';

/** A job of the made-up scenario, for tests. */
export const jobOf = (change: Partial<Job> = {}): Job => ({
  id: 'j',
  number: 'FA-0101',
  title: 'Entrance signs',
  state: 'layout',
  dueOn: null,
  quantity: 1,
  unit: 'mm',
  customer: 'Fernhollow Arboretum',
  contact: '',
  signs: [],
  runs: [],
  ...change,
});
