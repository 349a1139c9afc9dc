export interface Config {
  readonly port: number;
  readonly databaseUrl: string;
  readonly sessionSecret: string;
  readonly clock: string | null;
  readonly idleMinutes: number;
  readonly signInsPerMinute: number;
  readonly webFolder: string | null;
}

function required(env: NodeJS.ProcessEnv, name: string): string {
  const value = env[name];
  if (value === undefined || value === '') throw new Error(`${name} is not set. Start Rosemary with “npm start”, which sets it.`);
  return value;
}

/** Settings from the environment; a wrong one stops the start and says which. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const port = Number(env.PORT ?? '3000');
  if (!Number.isInteger(port) || port < 0 || port > 65_535) throw new Error(`PORT is “${env.PORT}”; it must be a number from 1 to 65535.`);
  const clock = env.ROSEMARY_CLOCK ?? null;
  if (clock !== null && Number.isNaN(Date.parse(clock)))
    throw new Error(`ROSEMARY_CLOCK is “${clock}”; it must be an instant such as 2026-11-18T10:20:00Z.`);
  return {
    port,
    databaseUrl: required(env, 'ROSEMARY_DATABASE_URL'),
    sessionSecret: required(env, 'ROSEMARY_SESSION_SECRET'),
    clock,
    idleMinutes: Number(env.ROSEMARY_IDLE_MINUTES ?? '90'),
    signInsPerMinute: Number(env.ROSEMARY_SIGN_INS ?? '15'),
    webFolder: env.ROSEMARY_WEB ?? null,
  };
}
