/** Thrown out of a question that a person broke off with Ctrl+C. */
export class Interrupted extends Error {
  constructor() {
    super("interrupted");
  }
}
