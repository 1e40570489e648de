/** By what products are chosen: the same words for every command. Each narrows what the others leave. */
export interface ChoiceWishes {
  /** A condition of the expression language, on the catalogue's own values. */
  readonly where?: string | undefined;
  /** A category of ours, by its path or the end of one; whatever lies below it is meant too. */
  readonly category?: string | undefined;
  readonly group?: string | undefined;
  /** SKUs with commas between, or `@` and a file of them, or `@-`. */
  readonly sku?: string | undefined;
  /** A channel that holds the product back. */
  readonly lacking?: string | undefined;
  /** Only what a channel does not have as it is now. */
  readonly changed?: boolean | undefined;
}

/** Whether anything is chosen at all: else every product is meant. */
export const isNarrowed = ({ where, category, group, sku, lacking, changed }: ChoiceWishes): boolean =>
  [where, category, group, sku, lacking].some((one) => one !== undefined) || changed === true;
