/** An exchange as the file says it, before it is held against the definition. */
import type { Place } from "../diagnostics/place.js";
import type { Alteration, LiveLayout, Repeating, SendingWay } from "./exchange-definition.js";

interface AtAddress {
  readonly from: string;
}

/** An exchange as the definition's file says it. */
export interface ExchangeSource {
  readonly send: {
    readonly as: SendingWay;
    readonly to: string;
    readonly layout?: string;
    readonly name?: string;
    readonly file_part?: string;
    readonly parts?: Readonly<Record<string, string>>;
    readonly again?: Repeating;
    readonly key_header?: string;
    readonly job?: string;
  };
  readonly trial?: string;
  readonly token?: { readonly header: string; readonly says: string };
  readonly progress?: AtAddress & {
    readonly state: string;
    readonly percent?: string;
    readonly because?: string;
    readonly done: readonly string[];
    readonly thrown_out?: readonly string[];
  };
  readonly find?: AtAddress & { readonly job?: string };
  readonly report?: string;
  readonly live?: AtAddress & {
    readonly format: LiveLayout["format"];
    readonly layout?: string;
    readonly records?: string;
    readonly id?: string;
    readonly kind?: string;
    readonly group_kind?: string;
    readonly alters?: Readonly<Record<string, readonly Alteration[]>>;
  };
  readonly categories?: string;
  readonly place: Place;
}
