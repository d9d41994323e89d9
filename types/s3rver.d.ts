/** The part that is used of s3rver, which comes without types. */
declare module 's3rver' {
  import type { AddressInfo } from 'node:net';

  interface Options {
    address: string;
    port: number;
    silent: boolean;
    directory: string;
    configureBuckets: { name: string }[];
  }

  export default class S3rver {
    constructor(options: Options);
    run(): Promise<AddressInfo>;
    close(): Promise<void>;
  }
}
