/** Tries an expression on products, as a channel's fills would. */
import type { Family } from "../../core/catalogue/family.js";
import type { Product } from "../../core/catalogue/product.js";
import type { AttributeIndex } from "../../core/catalogue/attribute-index.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { NameScope } from "../../core/language/compiler.js";
import type { Surroundings } from "../../core/language/function.js";
import { program, type ReadyProgram } from "../../core/language/program.js";
import type { Troubles } from "../../core/language/trouble.js";
import { channelTerms } from "../../core/listing/fill/channel-terms.js";
import { attributeNames, fillNames } from "../../core/listing/fill/fill-names.js";
import { plansOf } from "../../core/listing/plans.js";
import { trialScope } from "../../core/listing/trial.js";
import { stepWatch, type TriedStep } from "./steps.js";
import type { MaybeBlank } from "../../core/values/value.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";

/** What an expression came to on one product. */
export interface Trial {
  readonly product: Product | undefined;
  readonly value: MaybeBlank;
  readonly troubles: Troubles;
  readonly steps: readonly TriedStep[];
}

/** An expression that can be tried on one product after the other. */
export interface Trier {
  readonly readsProducts: boolean;
  alone(): Trial;
  on(family: Family): Promise<readonly Trial[]>;
}

/** Compiles an expression as a channel's fills would, or over the catalogue alone; refuses it with every fault. */
export function trierFor(
  text: string,
  attributes: AttributeIndex,
  surroundings: Surroundings,
  channel: WorkspaceChannel | undefined,
): Trier {
  const watch = stepWatch();
  const setup = channel?.setup;
  const names =
    setup === undefined ? attributeNames(attributes) : fillNames(setup.attributes, setup.definition);
  const compiled = program(
    { text, place: { file: "the expression", line: 1, position: 1 } },
    names,
    setup === undefined
      ? surroundings
      : { ...surroundings, channelTerm: channelTerms(setup.definition, setup.lexicon) },
    "any",
    watch.observe,
  );
  if (compiled.kind === "faulty") throw new Refusal(compiled.findings);
  const plans = setup === undefined ? undefined : plansOf(setup);
  const run = (ready: ReadyProgram, scope: NameScope, product: Product | undefined): Trial => {
    watch.begin();
    const troubles: Troubles = [];
    const value = ready.run(scope, troubles);
    return { product, value, troubles, steps: watch.steps(text) };
  };
  return {
    readsProducts: /[^\d\s]/.test(text) && (compiled.reads.length > 0 || compiled.readsFields.length > 0),
    alone: () => run(compiled, { value: () => undefined }, undefined),
    async on(family) {
      if (setup === undefined || plans === undefined)
        return family.members.map((product) => run(compiled, product, product));
      await channel?.recall([family], "sent");
      return family
        .membersOn(setup.channel)
        .map((product) => run(compiled, trialScope(product, family, setup, plans), product));
    },
  };
}
