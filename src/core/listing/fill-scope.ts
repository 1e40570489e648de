import type { Family } from "../catalogue/family.js";
import { textOf, valueOf, type Product } from "../catalogue/product.js";
import { LIST_SEPARATOR } from "../catalogue/record.js";
import type { CategoryField } from "../channel/category-rules.js";
import type { Scope } from "../language/compiler.js";
import { factsOf, type TroubleFacts, type Troubles } from "../language/trouble.js";
import { whole } from "../values/decimal.js";
import { isList, type MaybeBlank, type Value } from "../values/value.js";
import { fieldAtSlot, ownNames } from "./fill-names.js";
import type { Fill } from "./fill-set.js";
import type { FillProblem, PlacedProduct } from "./listing.js";
import type { PlannedField } from "./plan.js";

/** What a fill came to in its field: a value, or why there is none, or both. */
export interface Filled {
  readonly value: MaybeBlank;
  readonly problems: readonly FillProblem[];
}

/** Brings what a fill gave into its field. */
export type Settle = (given: Value, rule: CategoryField) => Filled;

const nothing: Filled = { value: undefined, problems: [] };

const mostAllowed = ({ field, limits }: CategoryField): MaybeBlank => {
  if (field.list) return limits.maxItems === undefined ? undefined : whole(limits.maxItems);
  if (limits.max !== undefined) return limits.max;
  return limits.maxLength === undefined ? undefined : whole(limits.maxLength);
};

const axisValues = (product: Product): MaybeBlank => {
  const axes = textOf(product, "varies_by")?.split(LIST_SEPARATOR) ?? [];
  const values = axes.flatMap((axis) => textOf(product, axis) ?? []);
  return values.length === 0 ? undefined : values;
};

const groupImages = (record: Product | undefined, members: readonly Product[]): MaybeBlank => {
  const own = record === undefined ? undefined : valueOf(record, "images");
  if (isList(own)) return own;
  const all = members.flatMap((member) => {
    const images = valueOf(member, "images");
    return isList(images) ? images : [];
  });
  return all.length === 0 ? undefined : [...new Set(all)];
};

/** What the listings of one family have in common for their fills; worked out once, when it is first asked for. */
export interface Shared {
  readonly images: MaybeBlank;
}

export const sharedOf = (family: Pick<Family, "record">, members: readonly Product[]): Shared => {
  let known: { readonly images: MaybeBlank } | undefined;
  return {
    get images() {
      known ??= { images: groupImages(family.record, members) };
      return known.images;
    },
  };
};

/** A person's own answer, as a value of its field. */
const answered = (text: string, { field }: CategoryField): Value =>
  field.list ? text.split(LIST_SEPARATOR) : text;

/** What one listing's fills read: the product, what its group has, and each other. A field is worked out once. */
export class FillScope implements Scope {
  private readonly filled: (Filled | undefined)[] = [];
  private readonly waiting: PlannedField[] = [];
  private readonly circles: TroubleFacts[] = [];
  private fill: Fill | undefined;

  constructor(
    private readonly placed: PlacedProduct,
    private readonly shared: Shared,
    private readonly settle: Settle,
  ) {}

  value(slot: number): MaybeBlank {
    if (slot >= 0) return this.placed.product.value(slot);
    const field = fieldAtSlot(slot);
    if (field !== undefined) return this.other(field);
    switch (slot) {
      case ownNames.usual.slot:
        return this.usual();
      case ownNames.axis_values.slot:
        return axisValues(this.placed.product);
      case ownNames.most_allowed.slot: {
        const rule = this.waiting.at(-1)?.rule;
        return rule === undefined ? undefined : mostAllowed(rule);
      }
      case ownNames.group_images.slot:
        return this.shared.images;
      default:
        return undefined;
    }
  }

  /** Gives a field a value that no fill makes, such as the category. */
  preset(slot: number, value: Value): void {
    this.filled[slot] = { value, problems: [] };
  }

  /** A field's value, worked out when it is first asked for. */
  field(planned: PlannedField): Filled {
    const { slot } = planned.rule.field;
    const known = this.filled[slot];
    if (known !== undefined) return known;
    const answer = planned.answer === undefined ? undefined : this.placed.product.text(planned.answer);
    if (answer !== undefined)
      return (this.filled[slot] = this.settle(answered(answer, planned.rule), planned.rule));
    if (planned.fill === undefined) return (this.filled[slot] = nothing);
    this.waiting.push(planned);
    const troubles: Troubles = [];
    const given = this.run(planned.fill, troubles);
    this.waiting.pop();
    return (this.filled[slot] = this.settled(planned, given, troubles));
  }

  private settled({ rule }: PlannedField, given: MaybeBlank, troubles: Troubles): Filled {
    const told: readonly TroubleFacts[] =
      this.circles.length === 0 && troubles.length === 0
        ? []
        : [...troubles.map(factsOf), ...this.circles.splice(0)];
    if (given === undefined || given === "") {
      if (told.length === 0) return nothing;
      return { value: undefined, problems: told.map((trouble) => ({ field: rule, trouble })) };
    }
    const settled = this.settle(given, rule);
    if (told.length === 0) return settled;
    return {
      value: settled.value,
      problems: [...told.map((trouble) => ({ field: rule, trouble })), ...settled.problems],
    };
  }

  private run(fill: Fill, troubles?: Troubles): MaybeBlank {
    const before = this.fill;
    this.fill = fill;
    const given = fill.program.run(this, troubles);
    this.fill = before;
    return given;
  }

  private usual(): MaybeBlank {
    const usual = this.fill?.usual;
    return usual === undefined ? undefined : this.run(usual);
  }

  private other(slot: number): MaybeBlank {
    const planned = this.placed.plan.bySlot[slot];
    if (planned === undefined) return undefined;
    const at = this.waiting.indexOf(planned);
    if (at < 0) return this.field(planned).value;
    const fields = [...this.waiting.slice(at), planned].map(({ rule }) => rule.field.code);
    this.circles.push({ trouble: "fill-circle", fields });
    return undefined;
  }
}
