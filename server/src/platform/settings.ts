import { fileURLToPath } from 'node:url';

/** What the processes are told by their environment; `./start` sets it. */
export interface Settings {
  readonly databaseUrl: string;
  readonly port: number;
  readonly webDir: string;
  readonly fontsDir: string;
  readonly demoDir: string;
  /** Where customers reach the application, without a slash at its end. */
  readonly publicUrl: string;
  /** A mail server as smtp://…; letters go to the outbox of the application where there is none. */
  readonly mailServer?: string;
  readonly mailFrom: string;
  /** Addresses of proxies that are believed who calls: a list of them, networks, or "loopback". */
  readonly trustedProxy?: string;
  readonly signInTries?: SignInTries;
  /** Port of loopback at which the practice machine is spoken to. */
  readonly machinePort?: number;
  /** s without a sign of life after which a lot of a run's files is handed to another worker. */
  readonly lotSilence: number;
  /** The program that translates to braille, where it is not the one that Debian has. */
  readonly brailleTranslator?: string;
}

/** How often a minute somebody may try to sign in from one address: to one account, and to any. Many people may be behind an address. */
export interface SignInTries {
  readonly account: number;
  readonly any: number;
}

export const SIGN_IN_TRIES: SignInTries = { account: 20, any: 100 };

const fromRoot = (path: string): string => fileURLToPath(new URL(`../../../${path}`, import.meta.url));

/** @throws Error naming the variable that is missing or wrong */
export function readSettings(env: NodeJS.ProcessEnv = process.env): Settings {
  const databaseUrl = env.DATABASE_URL;
  if (!databaseUrl) throw new Error('DATABASE_URL is not set: start with ./start, or set it to a PostgreSQL address.');
  const port = Number(env.PORT ?? 4310);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new Error(`PORT is “${env.PORT}” and must be a whole number from 0 to 65535.`);
  return {
    databaseUrl,
    port,
    webDir: env.WEB_DIR ?? fromRoot('web/dist/browser'),
    fontsDir: env.FONTS_DIR ?? fromRoot('fonts'),
    demoDir: env.DEMO_DIR ?? fromRoot('demo'),
    publicUrl: (env.PUBLIC_URL ?? `http://127.0.0.1:${port}`).replace(/\/+$/u, ''),
    ...(env.TRUSTED_PROXY && { trustedProxy: env.TRUSTED_PROXY }),
    ...(env.MAIL_SERVER && { mailServer: env.MAIL_SERVER }),
    ...(env.MACHINE_PORT && { machinePort: Number(env.MACHINE_PORT) }),
    lotSilence: secondsFrom(env.LOT_SILENCE_S),
    ...(env.LOU_TRANSLATE && { brailleTranslator: env.LOU_TRANSLATE }),
    mailFrom: env.MAIL_FROM ?? 'Millrace Signworks <proofs@millrace.example.org>',
  };
}

const LOT_SILENCE_S = 8;

function secondsFrom(text: string | undefined): number {
  const seconds = Number(text ?? LOT_SILENCE_S);
  if (seconds >= 1 && seconds <= 600) return seconds;
  throw new Error(`LOT_SILENCE_S is “${text}” and must be 1 to 600 seconds.`);
}
