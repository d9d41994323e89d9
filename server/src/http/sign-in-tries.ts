import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { Connection } from '../data/database';
import { Refused } from '../errors';

/** Failed tries for one address of a person, and from one address of the network, within the time. */
const [PER_PERSON, PER_NETWORK, WITHIN_S] = [10, 100, 15 * 60];

/** Counts failed tries to sign in, on all servers together. */
export class SignInTries {
  private readonly byPerson: RateLimiterPostgres;
  private readonly byNetwork: RateLimiterPostgres;

  constructor({ pool }: Connection) {
    const shared = { storeClient: pool, tableName: 'sign_in_tries', tableCreated: true, duration: WITHIN_S };
    this.byPerson = new RateLimiterPostgres({ ...shared, keyPrefix: 'person', points: PER_PERSON });
    this.byNetwork = new RateLimiterPostgres({ ...shared, keyPrefix: 'network', points: PER_NETWORK });
  }

  /** Counts a try before it is made, so that many at once are counted too; rejects where there were too many. */
  async begin(email: string, network: string): Promise<void> {
    try {
      await Promise.all([this.byPerson.consume(email), this.byNetwork.consume(network)]);
    } catch (error) {
      if (!(error instanceof RateLimiterRes)) throw error;
      const minutes = Math.ceil(error.msBeforeNext / 60_000);
      throw new Refused(429, 'access.tries', `Too many attempts; try again in ${minutes} minutes.`);
    }
  }

  /** It was the right password: none of it counts. */
  async succeed(email: string, network: string): Promise<void> {
    await Promise.all([this.byPerson.delete(email), this.byNetwork.reward(network)]);
  }
}
