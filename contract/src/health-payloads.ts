/** The server answers. */
export interface Health {
  ok: true;
  /** How many projects it has. */
  projects: number;
}

/** The process is alive. */
export interface Liveness {
  ok: true;
}

/** A part that the server needs for its work, and what is wrong with it. */
export interface HealthCheck {
  name: 'database' | 'store' | 'disk' | 'worker';
  ok: boolean;
  sentence?: string;
}

/** Whether the server can do its work. */
export interface Readiness {
  ok: boolean;
  checks: HealthCheck[];
}
