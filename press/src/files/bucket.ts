import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import {
  CopyObjectCommand,
  DeleteObjectCommand,
  GetObjectCommand,
  HeadObjectCommand,
  paginateListObjectsV2,
  PutObjectCommand,
  S3Client,
  S3ServiceException,
} from '@aws-sdk/client-s3';
import { Upload } from '@aws-sdk/lib-storage';
import { BucketAway } from './bucket-away';

/** A bucket of an S3-compatible service, and who may use it. */
export interface BucketSettings {
  /** Address of the service. */
  endpoint: string;
  bucket: string;
  /** Keys begin with it; empty, or ending with a slash. */
  prefix: string;
  region: string;
  accessKeyId: string;
  secretAccessKey: string;
}

/** An object, with its size in bytes and when it was last written, ms. */
export interface BucketObject {
  key: string;
  bytes: number;
  writtenAt: number;
}

/** The object is there already; another request writes it at the moment (Amazon S3 API, conditional writes). */
const [PRECONDITION_FAILED, CONFLICT] = [412, 409];
/** How often a request is made, with growing pauses, before the bucket counts as away. */
const MAX_ATTEMPTS = 4;
const [CONNECT_MS, SILENT_MS] = [5000, 60_000];
/** Larger objects are sent in parts of this size, bytes; services allow 10,000 of them. */
const PART_BYTES = 16 << 20;

/** The objects of a bucket by their keys. Rejects with `BucketAway` where it does not answer. */
export class Bucket {
  private readonly client: S3Client;

  constructor(private readonly settings: BucketSettings) {
    const { endpoint, region, accessKeyId, secretAccessKey } = settings;
    // The client's notice about its later versions is not for the log of an office: the version is fixed.
    process.env['AWS_SDK_JS_NODE_VERSION_SUPPORT_WARNING_DISABLED'] = 'true';
    this.client = new S3Client({
      endpoint,
      region,
      credentials: { accessKeyId, secretAccessKey },
      // Many compatible services know neither host names for buckets nor the newer checksums.
      forcePathStyle: true,
      requestChecksumCalculation: 'WHEN_REQUIRED',
      responseChecksumValidation: 'WHEN_REQUIRED',
      maxAttempts: MAX_ATTEMPTS,
      requestHandler: { connectionTimeout: CONNECT_MS, requestTimeout: SILENT_MS },
    });
  }

  async find(key: string): Promise<BucketObject | undefined> {
    const found = await this.answer(() => this.client.send(new HeadObjectCommand(this.at(key))));
    return found && { key, bytes: found.ContentLength ?? 0, writtenAt: found.LastModified?.getTime() ?? 0 };
  }

  /**
   * SHA-256 of an object in hex, where it was written with one and the service keeps it. ETags are not used: not all of them
   * are hashes (Amazon S3 API, Object).
   */
  async sha256(key: string): Promise<string | undefined> {
    const asked = new HeadObjectCommand({ ...this.at(key), ChecksumMode: 'ENABLED' });
    const checksum = (await this.answer(() => this.client.send(asked)))?.ChecksumSHA256;
    // An object in parts has a checksum of their checksums, with their number after a hyphen.
    if (checksum === undefined || checksum.includes('-')) return undefined;
    return Buffer.from(checksum, 'base64').toString('hex');
  }

  /** The content of an object; undefined where there is none. */
  async read(key: string): Promise<Readable | undefined> {
    const found = await this.answer(() => this.client.send(new GetObjectCommand(this.at(key))));
    return found?.Body as Readable | undefined;
  }

  /** Writes a file. Without `replace` it is written only where no object has the key; false where one has. */
  async write(key: string, file: string, { replace = false } = {}): Promise<boolean> {
    const upload = async (): Promise<void> => {
      const condition = replace ? {} : { IfNoneMatch: '*' };
      const params = { ...this.at(key), ...condition };
      if ((await stat(file)).size > PART_BYTES) {
        const inParts = { ...params, Body: createReadStream(file) };
        return void (await new Upload({ client: this.client, params: inParts, partSize: PART_BYTES }).done());
      }
      const Body = await readFile(file);
      // Services that know checksums refuse other bytes, and report it later; others ignore it.
      const ChecksumSHA256 = createHash('sha256').update(Body).digest('base64');
      await this.client.send(new PutObjectCommand({ ...params, Body, ChecksumSHA256 }));
    };
    const written = await this.answer(async () => {
      for (let attempt = 1; ; attempt++) {
        try {
          await upload();
          return true;
        } catch (error) {
          if (statusOf(error) === PRECONDITION_FAILED) return false;
          // Another request is writing this key: it may still fail, so that neither would have written it.
          if (statusOf(error) !== CONFLICT || attempt === MAX_ATTEMPTS) throw error;
        }
      }
    });
    // The upload in parts has vanished on the way.
    if (written === undefined) throw this.away('NoSuchUpload', undefined);
    return written;
  }

  async writeText(key: string, text: string): Promise<void> {
    await this.answer(() => this.client.send(new PutObjectCommand({ ...this.at(key), Body: text })));
  }

  /** Writes an object again within the bucket, perhaps under another key; false where there is none. */
  async copy(from: string, to: string): Promise<boolean> {
    const { bucket, prefix } = this.settings;
    const source = [bucket, ...`${prefix}${from}`.split('/')].map(encodeURIComponent).join('/');
    const command = new CopyObjectCommand({ ...this.at(to), CopySource: source, MetadataDirective: 'REPLACE' });
    return (await this.answer(() => this.client.send(command))) !== undefined;
  }

  async remove(key: string): Promise<void> {
    await this.answer(() => this.client.send(new DeleteObjectCommand(this.at(key))));
  }

  /** All objects whose keys begin with a text; with `flat` only those without a further slash in their keys. */
  async *list(begin: string, { flat = false } = {}): AsyncGenerator<BucketObject> {
    const { bucket: Bucket, prefix } = this.settings;
    const wanted = { Bucket, Prefix: prefix + begin, ...(flat && { Delimiter: '/' }) };
    const pages = paginateListObjectsV2({ client: this.client }, wanted);
    for (;;) {
      const page = await this.answer(() => pages.next());
      if (!page || page.done) return;
      for (const { Key = '', Size: bytes = 0, LastModified } of page.value.Contents ?? [])
        yield { key: Key.slice(prefix.length), bytes, writtenAt: LastModified?.getTime() ?? 0 };
    }
  }

  /** Says in one sentence why nothing can be written to the bucket; undefined when it can. */
  async problem(): Promise<string | undefined> {
    try {
      await this.writeText('probe', 'x');
      return undefined;
    } catch (error) {
      return (error as Error).message;
    }
  }

  private at(key: string): { Bucket: string; Key: string } {
    return { Bucket: this.settings.bucket, Key: this.settings.prefix + key };
  }

  /** What the service answers; undefined where it has no such thing. */
  private async answer<T>(ask: () => Promise<T>): Promise<T | undefined> {
    try {
      return await ask();
    } catch (error) {
      if (statusOf(error) === 404 && (error as Error).name !== 'NoSuchBucket') return undefined;
      const { name, code = name } = error as Error & { code?: string };
      throw this.away(code, error);
    }
  }

  private away(code: string, error: unknown): BucketAway {
    const { endpoint, bucket } = this.settings;
    return new BucketAway(`The bucket ${bucket} at ${endpoint} cannot be used (${code}).`, code, error);
  }
}

function statusOf(error: unknown): number | undefined {
  return error instanceof S3ServiceException ? error.$metadata.httpStatusCode : undefined;
}
