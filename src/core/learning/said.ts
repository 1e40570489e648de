import type { Kind } from "../values/value.js";

/** What a sentence of a channel's rules says of a field; what it does not say is absent. */
export interface Said {
  kind?: Kind;
  minLength?: number;
  maxLength?: number;
  counted?: "bytes";
  maxItems?: number;
  min?: string;
  max?: string;
  decimals?: number;
  unit?: string;
  /** As the channel writes it: `DD/MM/YYYY`. */
  date?: string;
  values?: readonly string[];
  pixels?: number;
}
