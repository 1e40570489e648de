/** The layer of single edits; it lies above all layers that the manifest names, unless that names it too. */
export const EDITS = "edits";

/** The layer of single edits, for all or for one channel. */
export const editsFor = (channel: string | undefined): string =>
  channel === undefined ? EDITS : `${EDITS}-${channel}`;
