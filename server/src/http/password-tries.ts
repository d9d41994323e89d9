import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { Connection } from '../data/database';
import { Refused } from '../errors';

/** Wrong passwords for one account or page, and from one address of the network, within the time. */
const [PER_SUBJECT, PER_NETWORK, WITHIN_S] = [10, 100, 15 * 60];

/** Counts wrong passwords, on all servers together. */
export class PasswordTries {
  private readonly bySubject: RateLimiterPostgres;
  private readonly byNetwork: RateLimiterPostgres;

  constructor({ pool }: Connection) {
    const shared = { storeClient: pool, tableName: 'sign_in_tries', tableCreated: true, duration: WITHIN_S };
    this.bySubject = new RateLimiterPostgres({ ...shared, keyPrefix: 'person', points: PER_SUBJECT });
    this.byNetwork = new RateLimiterPostgres({ ...shared, keyPrefix: 'network', points: PER_NETWORK });
  }

  /** Counts a try before it is made, so that many at once are counted too; rejects where there were too many. */
  async begin(subject: string, network: string): Promise<void> {
    try {
      await Promise.all([this.bySubject.consume(subject), this.byNetwork.consume(network)]);
    } catch (error) {
      if (!(error instanceof RateLimiterRes)) throw error;
      const minutes = Math.ceil(error.msBeforeNext / 60_000);
      throw new Refused(429, 'access.tries', `Too many attempts; try again in ${minutes} minutes.`);
    }
  }

  /** It was the right password: none of it counts. */
  async succeed(subject: string, network: string): Promise<void> {
    await Promise.all([this.bySubject.delete(subject), this.byNetwork.reward(network)]);
  }
}
