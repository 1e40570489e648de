import type { LayoutDefinition, XlsxLayout } from "../../core/channel/layout-definition.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import type { FileFacts } from "../../layouts/layout.js";
import { writerFor } from "../../layouts/layouts.js";
import type { LayoutFiles } from "./built-files.js";
import type { LayoutPiece } from "./layout-pieces.js";
import { textFiles } from "./text-files.js";
import type { StagedFiles } from "../../workspace/landing/open-folders.js";

/** Files that are given pieces of their own kind, since both are of one layout. */
const joining = <K extends LayoutPiece["kind"]>(
  kind: K,
  files: LayoutFiles<Extract<LayoutPiece, { readonly kind: K }>>,
): LayoutFiles => ({
  ...files,
  join(piece) {
    if (piece.kind !== kind) throw new Error(`a piece of ${piece.kind} for files of ${kind}`);
    return files.join(piece as Extract<LayoutPiece, { readonly kind: K }>);
  },
});

/** Opens the files of a layout. */
export async function layoutFiles(
  layout: LayoutDefinition,
  setup: ChannelSetup,
  facts: FileFacts,
  staged: StagedFiles,
  templateFolders: readonly string[],
): Promise<LayoutFiles> {
  const fileLimits = { ...setup.definition.fileLimits, ...layout.fileLimits };
  if (layout.format !== "xlsx")
    return joining("text", await textFiles(layout, writerFor(layout, facts), fileLimits, staged));
  const { workbookFiles } = await import("./workbook-files.js");
  return joining("rows", workbookFiles(layout satisfies XlsxLayout, setup, staged, templateFolders));
}
