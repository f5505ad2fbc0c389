export const dayOf = (moment: string): string => new Date(moment).toLocaleDateString('en-GB', { dateStyle: 'medium' });
export const timeOf = (moment: string): string =>
  new Date(moment).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
