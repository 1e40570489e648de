/** One act on catalogue and files: it lands whole, or leaves no trace. */
import type { CatalogueTransaction, PlannedColumn, RevisionPlan } from "../store/store.js";
import type { WritableCatalogue } from "./open-catalogue.js";

/**
 * Does one act on the catalogue and on files: it lands whole, or leaves no trace; a trial is rolled back when its work is
 * done.
 */
export async function oneAct<T>(
  { store, landing }: Pick<WritableCatalogue, "store" | "landing">,
  work: (transaction: CatalogueTransaction) => Promise<T>,
  { isTrial = false }: { readonly isTrial?: boolean } = {},
): Promise<T> {
  const transaction = await store.begin();
  try {
    const result = await work(transaction);
    if (isTrial) await transaction.rollback();
    else await landing.land((mark) => transaction.commit(mark));
    return result;
  } catch (error) {
    await transaction.rollback();
    throw error;
  }
}

type EditPlan = Pick<RevisionPlan, "layer" | "file" | "at"> &
  Partial<Pick<RevisionPlan, "kind" | "source" | "tellChanges">>;

/** The plan of a revision that changes values of known products, each named by its SKU: first the SKU, then the columns. */
export const editPlan = (
  { kind = "edit", source = "", tellChanges = false, ...own }: EditPlan,
  columns: readonly PlannedColumn[],
  skuColumn = "",
): RevisionPlan => ({
  ...own,
  kind,
  source,
  tellChanges,
  columns: [{ attribute: "sku", column: skuColumn }, ...columns],
  keys: ["sku"],
  mode: "update",
  compare: "layer",
  replace: false,
});
