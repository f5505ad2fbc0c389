/** Everything that the server refuses, in one place: status, code, and a sentence that says what to do. */

export interface Fault {
  readonly path: string;
  readonly message: string;
}

export class ServerError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    /** More for the client to act on; becomes part of the answer. */
    readonly details: Readonly<Record<string, unknown>> = {},
  ) {
    super(message);
    this.name = 'ServerError';
  }
}

export const errors = {
  badRequest: (faults: readonly Fault[]) =>
    new ServerError(400, 'BAD_REQUEST', faults.map(({ path, message }) => (path ? `${path}: ${message}` : message)).join('\n'), {
      faults,
    }),
  fontInUse: (font: string, titles: readonly string[]) =>
    new ServerError(
      409,
      'FONT_IN_USE',
      `${font} is kept: ${titles
        .slice(0, 3)
        .map((title) => `“${title}”`)
        .join(
          ', ',
        )}${titles.length > 3 ? ' and others are' : titles.length > 1 ? ' are' : ' is'} set in it. Set ${titles.length > 1 ? 'them' : 'it'} in another font first.`,
    ),
  noTranslator: () =>
    new ServerError(
      503,
      'NO_TRANSLATOR',
      'Nothing translates to braille on this server: have “sudo apt-get install -y liblouis-bin liblouis-data” run there, or type the cells by hand. Cells that are there stay.',
    ),
  translatorHangs: (seconds: number) =>
    new ServerError(
      504,
      'TRANSLATOR_HANGS',
      `The translation to braille took longer than ${seconds} s and was given up: try fewer words, or type the cells by hand.`,
    ),
  noBrailleTable: (name: string) =>
    new ServerError(503, 'NO_BRAILLE_TABLE', `The translator of this server has no table “${name}”: choose another one.`),
  notAPicture: (name: string) =>
    new ServerError(415, 'NOT_A_PICTURE', `“${name}” is no PNG or JPEG picture and is given out as a file only.`),
  notFound: (what: string, id: string) =>
    new ServerError(404, 'NOT_FOUND', `There is no ${what} “${id}”: it may have been removed, or the address is mistyped.`),
  noSuchAddress: (address: string) => new ServerError(404, 'NO_SUCH_ADDRESS', `“${address}” is not an address of this server.`),
  staleSave: (details: { base: number; revision: number; aside: number; theirs: unknown; savedAt: string }) =>
    new ServerError(
      409,
      'STALE_SAVE',
      `The sign was saved elsewhere meanwhile (revision ${details.revision}, yours began from ${details.base}). ` +
        'Both are kept: choose which goes on.',
      details,
    ),
  notesOpen: (signs: readonly { readonly title: string; readonly notes: readonly string[] }[]) =>
    new ServerError(
      409,
      'NOTES_OPEN',
      `${signs.map(({ title, notes }) => `“${title}” has ${notes.length === 1 ? 'a note' : `${notes.length} notes`} left open`).join(', ')}: look at them, or confirm that the proof goes out all the same.`,
      { signs },
    ),
  signIsProved: (title: string, letter: string) =>
    new ServerError(
      409,
      'SIGN_IS_PROVED',
      `“${title}” stays with its job: proof ${letter} shows it. Copy it to the other job instead.`,
    ),
  notReady: (state: string) =>
    new ServerError(409, 'NOT_READY', `The file is not there: the work is ${state}. Ask for it again, or wait until it is done.`),
  noSuchLink: () =>
    new ServerError(
      404,
      'NO_SUCH_LINK',
      'There is no proof at this address: it may be mistyped. Open it from the letter once more.',
    ),
  linkExpired: (since: Date) =>
    new ServerError(
      410,
      'LINK_EXPIRED',
      `This address stopped working on ${since.toISOString().slice(0, 10)}. Ask the shop to send the proof again.`,
    ),
  linkWithdrawn: () =>
    new ServerError(410, 'LINK_WITHDRAWN', 'The shop has taken this proof back. A new one will come, or ask the shop.'),
  proofEnded: (letter: string, state: string) =>
    new ServerError(
      409,
      'PROOF_ENDED',
      state === 'approved'
        ? `Proof ${letter} is approved already.`
        : state === 'changes asked'
          ? `Changes to proof ${letter} were asked for already: the shop answers with a new one.`
          : state === 'withdrawn'
            ? `Proof ${letter} was withdrawn.`
            : `Proof ${letter} was replaced by a newer one: answer that.`,
      { state },
    ),
  otherContents: () =>
    new ServerError(409, 'OTHER_CONTENTS', 'What you saw is not what this proof holds: load the page again and look it over.'),
  tooManyRemarks: (most: number) =>
    new ServerError(
      409,
      'TOO_MANY_REMARKS',
      `A proof holds ${most} remarks at most: ask for changes in one text, or ring the shop.`,
    ),
  notApproved: (reason: string, changes: readonly string[]) =>
    new ServerError(
      409,
      'NOT_APPROVED',
      `${reason} Files for production are made of what was approved: send a proof, or say who takes it on themselves and why.`,
      { changes },
    ),
  staleLibrary: (details: { base: number; revision: number }) =>
    new ServerError(
      409,
      'STALE_LIBRARY',
      'Somebody else changed the shop’s lists meanwhile. Nothing of yours is lost: load theirs, and make your change once more.',
      details,
    ),
  fileInUse: (name: string, use: string) =>
    new ServerError(409, 'FILE_IN_USE', `“${name}” is kept: it is ${use}. Take it away from there first.`),
  stalePlace: (details: { base: number; revision: number }) =>
    new ServerError(
      409,
      'STALE_PLACE',
      'Somebody else changed this place meanwhile. Yours is still on this page: note what you want of it, load theirs, and change it there.',
      details,
    ),
  staleRun: (details: { base: number; revision: number }) =>
    new ServerError(
      409,
      'STALE_RUN',
      'Somebody else changed this run meanwhile. Yours is still on this page: take its list as a file, load theirs, and change it there.',
      details,
    ),
  tooManyRuns: (most: number) =>
    new ServerError(409, 'TOO_MANY_RUNS', `A job keeps ${most} runs at most: remove one that is no longer needed.`),
  tooManyMakings: (most: number) =>
    new ServerError(409, 'TOO_MANY_MAKINGS', `Workers make files of a run ${most} times at once at most: wait until one is done, or end it.`), // prettier-ignore
  tooManyPlaces: (most: number) =>
    new ServerError(409, 'TOO_MANY_PLACES', `A job keeps ${most} places at most: remove one that is no longer needed.`),
  notInShop: (what: string, id: string, known: readonly string[]) =>
    new ServerError(
      422,
      'NOT_IN_SHOP',
      `${what} “${id}” is none of the shop’s: it has ${known.length > 0 ? known.slice(0, 20).join(', ') : 'none'}. Choose one, or add it under Shop.`,
    ),
  notProven: (why: string) =>
    new ServerError(
      409,
      'NOT_PROVEN',
      `The dry run found something wrong: ${why}. Lay the plan again with other tools, or say who lets it out and why.`,
    ),
  notReleased: () =>
    new ServerError(
      409,
      'NOT_RELEASED',
      'These programs were not let out yet: let them out on Make, where it says whether they are proven and approved.',
    ),
  machineAway: (why: string) =>
    new ServerError(
      503,
      'MACHINE_AWAY',
      `The machine does not answer: ${why}. What was sent is written down; try again when it is there.`,
    ),
  machineRefused: (sentence: string) => new ServerError(409, 'MACHINE_REFUSED', sentence),
  machineTaken: (who: string, name: string) =>
    new ServerError(409, 'MACHINE_TAKEN', `${who} has sent ${name}, which is not done yet: ask, or have it taken out for yours.`),
  notSignedIn: () => new ServerError(401, 'NOT_SIGNED_IN', 'Sign in first: nobody is signed in here, or the session has ended.'),
  wrongSignIn: () =>
    new ServerError(
      401,
      'WRONG_SIGN_IN',
      'E-mail address or password is not right. After five wrong passwords in a row an account rests for 15 minutes.',
    ),
  tooManyTries: (seconds: number) =>
    new ServerError(429, 'TOO_MANY_TRIES', `Too many tries to sign in from this address: try again in ${seconds} s.`),
  wrongPassword: () => new ServerError(403, 'WRONG_PASSWORD', 'The password before is not right: nothing was changed.'),
  notForRole: (role: string, least: string) =>
    new ServerError(
      403,
      'NOT_FOR_ROLE',
      `This is not for a ${role}: ask ${least === 'owner' ? 'an owner' : 'a designer'} of the shop.`,
    ),
  otherSite: () =>
    new ServerError(
      403,
      'OTHER_SITE',
      'The request does not come from a page of Plain Relief: programs send the header x-plain-relief.',
    ),
  notFirst: () => new ServerError(409, 'NOT_FIRST', 'The shop has its people already: sign in, or ask an owner to add you.'),
  lastOwner: (name: string) =>
    new ServerError(409, 'LAST_OWNER', `${name} is the only owner: make somebody else an owner first.`),
  emailTaken: (email: string) => new ServerError(409, 'EMAIL_TAKEN', `Somebody has the address ${email} already.`),
  jobIsRemoved: (title: string) =>
    new ServerError(409, 'JOB_IS_REMOVED', `The job of “${title}” lies in the bin itself: take the job back first.`),
  jobIsApproved: (letter: string) =>
    new ServerError(
      409,
      'JOB_IS_APPROVED',
      `The customer has approved proof ${letter} of this job, which is kept as what was agreed: mark the job as done instead.`,
    ),
  databaseAway: () =>
    new ServerError(503, 'DATABASE_AWAY', 'The database does not answer at the moment. Nothing is lost: try again shortly.'),
  tooMuchWork: (sentence: string) => new ServerError(422, 'TOO_MUCH_WORK', sentence),
  diskFull: () =>
    new ServerError(
      507,
      'DISK_FULL',
      'The disk of the server is full, so nothing can be saved. What you typed is kept in the browser: free some space there and it is saved by itself.',
    ),
  tooLarge: (most: number) => {
    const limit = most < 1024 * 1024 ? `${Math.floor(most / 1024)} kB` : `${Math.floor(most / 1024 / 1024)} MB`;
    return new ServerError(413, 'TOO_LARGE', `The request is larger than the ${limit} that are taken here.`);
  },
} as const;
