/** Input that a fast way does not understand: it goes the plain way instead. Never told to anyone. */
export class NotPlain extends Error {
  override name = 'NotPlain';
}
