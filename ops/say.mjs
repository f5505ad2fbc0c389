// Words to the person at the terminal, and the one error that is told without a stack.

/** Something that keeps a command from going on, with what to do about it. */
export class Stop extends Error {}

export const say = (text) => console.log(text);

/** Runs a command's main function; a Stop ends it with one sentence. */
export function main(run) {
  run().catch((error) => {
    if (error instanceof Stop) console.error(error.message);
    else if (error?.code === 'ENOSPC') console.error('The disk is full: free some space (about 1 GB), then start again.');
    else console.error(error);
    process.exit(1);
  });
}
