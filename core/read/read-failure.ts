/** A source could not be read at all. */
export class ReadFailure extends Error {
  override name = 'ReadFailure';
  constructor(
    readonly file: string,
    message: string,
  ) {
    super(message);
  }
}
