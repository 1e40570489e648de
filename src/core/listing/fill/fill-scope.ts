/**
 * The world of one listing's fills: its product, its group and its other fields, each worked out when it is first asked
 * for. Circles end in a trouble, not in a stack.
 */
import { itemsOf } from "../../catalogue/list-text.js";
import type { Family } from "../../catalogue/family.js";
import { textOf, valueOf, type ProductView } from "../../catalogue/product.js";
import type { CategoryField } from "../../channel/category-rules.js";
import type { NameScope } from "../../language/compiler.js";
import { factsOf, type Troubles } from "../../language/trouble.js";
import type { TroubleFacts } from "../../diagnostics/trouble-facts.js";
import { whole } from "../../values/decimal.js";
import { isList, type MaybeBlank, type Value } from "../../values/value.js";
import { fieldAtSlot, ownNames } from "./fill-names.js";
import type { Fill } from "./fill-set.js";
import type { GroupView } from "./group-view.js";
import type { Filled } from "./filled.js";
import type { PricedProduct } from "../listing.js";
import type { PlannedCategory, PlannedField } from "../plan.js";

/** Brings what a fill gave into its field. */
export type SettleValue = (given: Value, rule: CategoryField) => Filled;

const nothing: Filled = { value: undefined, problems: [] };

function mostAllowed({ field, limits }: CategoryField): MaybeBlank {
  if (field.list) return limits.maxItems === undefined ? undefined : whole(limits.maxItems);
  if (limits.max !== undefined) return limits.max;
  return limits.maxLength === undefined ? undefined : whole(limits.maxLength);
}

/** Within a group's own texts only what sets it apart from the family's other groups has a value. */
function axisValues({ product, axes }: PricedProduct): MaybeBlank {
  const values = axes.flatMap((axis) => textOf(product, axis) ?? []);
  return values.length === 0 ? undefined : values;
}

function groupImages(record: ProductView | undefined, members: readonly ProductView[]): MaybeBlank {
  const own = record === undefined ? undefined : valueOf(record, "images");
  if (isList(own)) return own;
  const all = members.flatMap((member) => {
    const images = valueOf(member, "images");
    return isList(images) ? images : [];
  });
  return all.length === 0 ? undefined : [...new Set(all)];
}

/** What the listings of one group have in common for their fills; worked out once, when it is first asked for. */
export interface SharedByGroup {
  readonly images: MaybeBlank;
  /** The group's members as the channel sees them; of a product without a group, itself. */
  readonly members: readonly ProductView[];
}

/** Begins to share among the listings of one group. */
export function sharedOf(
  family: Pick<Family, "record">,
  all: readonly ProductView[],
  members: readonly ProductView[],
): SharedByGroup {
  let known: { readonly images: MaybeBlank } | undefined;
  return {
    members,
    get images() {
      known ??= { images: groupImages(family.record, all) };
      return known.images;
    },
  };
}

/** A person's own answer, as a value of its field. */
const answered = (text: string, { field }: CategoryField): Value => (field.list ? itemsOf(text) : text);

/** Where the fields of a group are filled, once for all its members. */
export interface GroupFields {
  /** The scope of the group itself in a plan. */
  scopeIn(plan: PlannedCategory): FillScope;
}

/** The products that a channel sees as one group, or one that it sees alone, with what their fills have in common. */
export interface FilledGroup {
  readonly shared: SharedByGroup;
  /** Undefined where nothing is said for the group as a whole: a product alone, or a channel that knows no such groups. */
  readonly fields: GroupFields | undefined;
}

/** What one listing's fills read: the product, what its group has, and each other. A field is worked out once. */
export class FillScope implements NameScope {
  private readonly filled: (Filled | undefined)[] = [];
  private readonly waiting: PlannedField[] = [];
  private readonly circles: TroubleFacts[] = [];
  /** The first attribute that the fill at work read and in which the members differ. */
  private differing: TroubleFacts | undefined;
  private fill: Fill | undefined;

  constructor(
    private readonly priced: PricedProduct,
    private readonly shared: SharedByGroup,
    private readonly settle: SettleValue,
    /** Fields of the group are taken from it; undefined: the product is on its own, or it is the group. */
    private readonly group?: GroupFields,
    /** Where it is the group itself. */
    private readonly view?: GroupView,
  ) {}

  members(): readonly NameScope[] {
    return this.shared.members;
  }

  value(slot: number): MaybeBlank {
    if (slot >= 0) return this.attribute(slot);
    const field = fieldAtSlot(slot);
    if (field !== undefined) return this.other(field);
    switch (slot) {
      case ownNames.usual.slot:
        return this.usual();
      case ownNames.axis_values.slot:
        return axisValues(this.priced);
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

  /** The product that a field's fill reads: the group itself for what belongs to it. */
  productOf({ rule }: PlannedField): ProductView {
    const scope = rule.field.level === "group" ? this.group?.scopeIn(this.priced.plan) : undefined;
    return (scope ?? this).priced.product;
  }

  /** Gives a field a value that no fill makes, such as the category. */
  preset(slot: number, value: Value): void {
    this.filled[slot] = { value, problems: nothing.problems };
  }

  /** What a field was filled with so far. */
  at(slot: number): Filled | undefined {
    return this.filled[slot];
  }

  /** A field's value, worked out when it is first asked for. */
  field(planned: PlannedField): Filled {
    const { slot } = planned.rule.field;
    const known = this.filled[slot];
    if (known !== undefined) return known;
    if (this.group !== undefined && planned.rule.field.level === "group")
      return (this.filled[slot] = this.group.scopeIn(this.priced.plan).field(planned));
    const answer = planned.answer === undefined ? undefined : this.priced.product.text(planned.answer);
    if (answer !== undefined)
      return (this.filled[slot] = this.settle(answered(answer, planned.rule), planned.rule));
    if (planned.fill === undefined) return (this.filled[slot] = nothing);
    return (this.filled[slot] = this.remembered(planned, planned.fill));
  }

  /** What a fill comes to, from memory where the same texts came before. */
  private remembered(planned: PlannedField, fill: Fill): Filled {
    // Of a group it matters, too, in which attributes its members differ.
    const memo = this.view === undefined ? planned.memo : undefined;
    if (memo === undefined) return this.workedOut(planned, fill);
    const key = memo.keyOf(this.priced.product);
    const known = memo.get(key);
    if (known !== undefined) return known;
    const filled = this.workedOut(planned, fill);
    memo.set(key, filled);
    return filled;
  }

  private workedOut(planned: PlannedField, fill: Fill): Filled {
    const { isJust = -1 } = fill.program;
    // An attribute as it stands asks for nothing else, and nothing goes wrong with it.
    if (isJust >= 0 && this.view === undefined) {
      const value = this.priced.product.value(isJust);
      return value === undefined ? nothing : this.settle(value, planned.rule);
    }
    this.waiting.push(planned);
    const troubles: Troubles = [];
    const outer = this.differing;
    this.differing = undefined;
    const given = this.run(fill, troubles);
    const differing = this.takeDiffering(outer);
    this.waiting.pop();
    return differing === undefined
      ? this.settled(planned, given, troubles)
      : // What was worked out with one value missing that the members have can be anything.
        { value: undefined, problems: [{ field: planned.rule, trouble: differing }] };
  }

  /** An attribute of the product; of a group, what its members agree on. */
  private attribute(slot: number): MaybeBlank {
    const value = this.priced.product.value(slot);
    if (value !== undefined || this.view === undefined) return value;
    const values = this.view.differing(slot);
    if (values !== undefined)
      this.differing ??= {
        trouble: "members-differ",
        attribute: this.priced.product.attributes.names[slot] ?? "",
        values,
      };
    return undefined;
  }

  /** What the fill that ended came upon; the one that waits for it goes on with its own. */
  private takeDiffering(outer: TroubleFacts | undefined): TroubleFacts | undefined {
    const found = this.differing;
    this.differing = outer;
    return found;
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
    const planned = this.priced.plan.bySlot[slot];
    if (planned === undefined) return undefined;
    const at = this.waiting.indexOf(planned);
    if (at < 0) return this.field(planned).value;
    const fields = [...this.waiting.slice(at), planned].map(({ rule }) => rule.field.code);
    this.circles.push({ trouble: "fill-circle", fields });
    return undefined;
  }
}
