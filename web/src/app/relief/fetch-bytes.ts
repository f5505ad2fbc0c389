/** Brings a file of the server. */
export type Fetch = (path: string) => Promise<Uint8Array>;

/** Brings a file of the server to a worker: on its own, since a worker hears what it is asked only where it waits for nothing before. */
export async function fetchBytes(path: string): Promise<Uint8Array> {
  const answer = await fetch(path);
  if (!answer.ok) throw new Error(`${path} could not be loaded (${answer.status}).`);
  return new Uint8Array(await answer.arrayBuffer());
}
