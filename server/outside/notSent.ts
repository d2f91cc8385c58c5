/** Nothing went out: it may be tried again, unless that cannot help. The message is shown. */
export class NotSent extends Error {
  constructor(
    message: string,
    readonly isFinal = false,
  ) {
    super(message);
  }
}
