/** Thrown where a command's answer can be written no more: its reader has gone, or the device is full. */
export class OutputLost extends Error {
  /** Whether the reader simply went away, as `head` does: nobody is there to be told. */
  readonly isReaderGone: boolean;

  constructor(reason: string) {
    super(reason);
    this.isReaderGone = reason === "EPIPE";
  }
}
