/** The address of a thread's code beside a module. Under test the sources run, and threads take what was built from them. */
export const threadFile = (file: string, beside: string): string =>
  new URL(file, beside.replace('/server/src/', '/server/dist/')).href;
