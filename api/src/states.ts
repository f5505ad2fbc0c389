/** Lists that server and page choose from, without the schemas: the page takes these alone along. */

/** Where a job stands, in the order in which work goes on. */
export const JOB_STATES = ['brief', 'layout', 'proof out', 'changes asked', 'approved', 'in the shop', 'done'] as const;
export type JobState = (typeof JOB_STATES)[number];

/** `open` waits for the customer; all others are ends, of which a proof has one. */
export const PROOF_STATES = ['open', 'approved', 'changes asked', 'withdrawn', 'replaced'] as const;
export type ProofState = (typeof PROOF_STATES)[number];

/** What a shop makes of a correction of a customer's: it takes it into the list, or leaves the value. */
export const CORRECTION_ENDS = ['taken', 'left'] as const;
export type CorrectionEnd = (typeof CORRECTION_ENDS)[number];

/** Those that say where a sign stands with the customer. */
export const COUNTING_PROOF_STATES = ['open', 'approved', 'changes asked'] as const satisfies readonly ProofState[];

/** What a customer ticks before approving. */
export const TICKS = ['spelling', 'sizes', 'colours'] as const;
export type Ticks = Readonly<Record<(typeof TICKS)[number], boolean>>;

/** What people of the shop may do, each all that those before it may. */
export const ROLES = ['maker', 'designer', 'owner'] as const;
export type Role = (typeof ROLES)[number];

/** What can be asked of a sign: its proof, single production files, or all of them in one archive. */
export const TASK_KINDS = [
  'proof',
  'stl',
  '3mf',
  'glb',
  'pieces',
  'picture',
  'svg',
  'dxf',
  'laser',
  'masks',
  'pattern',
  'inlays',
  'print',
  'template',
  'package',
] as const;
export type TaskKind = (typeof TASK_KINDS)[number];

/** What is made of a frozen proof: its sheet, and the sheet with the stamp of approval. */
export const SHEET_KINDS = ['sheet', 'stamped sheet'] as const;
export type SheetKind = (typeof SHEET_KINDS)[number];

/** What is worked out of a sign besides files: the cuts that make it. */
export const PLAN_KINDS = ['cuts'] as const;
export type PlanKind = (typeof PLAN_KINDS)[number];

export const TASK_STATES = ['waiting', 'running', 'done', 'failed', 'cancelled'] as const;
export type TaskState = (typeof TASK_STATES)[number];

/** Where the files of a run stand that workers make. */
export const MAKING_STATES = ['running', 'paused', 'done', 'cancelled'] as const;
export type MakingState = (typeof MAKING_STATES)[number];

export const MAIL_STATES = ['waiting', 'sending', 'sent', 'failed'] as const;
export type MailState = (typeof MAIL_STATES)[number];

export const MACHINE_STATES = ['idle', 'running', 'held', 'tool', 'alarm', 'off'] as const;
export type MachineState = (typeof MACHINE_STATES)[number];

/** What a machine can be told besides a program. */
export const MACHINE_COMMANDS = ['run', 'hold', 'go', 'stop', 'tool', 'feed', 'door', 'faster', 'power', 'home'] as const;
export type MachineCommand = (typeof MACHINE_COMMANDS)[number];
