/** Where the stand-ins listen and how they behave; every setting comes from the environment. */
export interface StandinConfig {
  port: number;
  smtpPort: number;
  dnsPort: number;
  /** File that keeps what was received between runs; none keeps it in memory only. */
  file: string | null;
  /** How long the card that answers too late keeps its caller waiting, in milliseconds. */
  lateMs: number;
  /** How long after a charge its webhook is sent, in milliseconds. */
  webhookDelayMs: number;
}

export function readConfig(environment: NodeJS.ProcessEnv = process.env): StandinConfig {
  return {
    port: Number(environment.RUTA_STANDINS_PORT ?? 4602),
    smtpPort: Number(environment.RUTA_SMTP_PORT ?? 4603),
    dnsPort: Number(environment.RUTA_DNS_PORT ?? 4604),
    file: environment.STANDINS_FILE ?? null,
    lateMs: Number(environment.STANDINS_LATE_MS ?? 20_000),
    webhookDelayMs: Number(environment.STANDINS_WEBHOOK_DELAY_MS ?? 400),
  };
}
