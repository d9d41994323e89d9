export interface PostgresServer {
  url: string;
  /** PostgreSQL's data folder. */
  data: string;
  /** The folder of the database: the given one, or one outside it. */
  place: string;
  stop(): Promise<void>;
  /** Stops it and deletes what is outside the given folder. */
  remove(): Promise<void>;
}
export function startPostgres(folder: string): Promise<PostgresServer>;
export function freePort(): Promise<number>;
