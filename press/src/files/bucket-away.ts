/** A bucket does not answer, or refuses; it may answer a moment later. */
export class BucketAway extends Error {
  /** `code`: the service's name for what is wrong, or the system's. */
  constructor(
    message: string,
    readonly code: string,
    cause: unknown,
  ) {
    super(message, { cause });
  }
}
