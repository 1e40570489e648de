import type { LayoutDefinition, XlsxLayout } from "../../core/channel/layout-definition.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import type { FileFacts } from "../../layouts/layout.js";
import { writerFor } from "../../layouts/layouts.js";
import type { LayoutFiles } from "./built-files.js";
import { textFiles } from "./text-files.js";
import type { StagedFiles } from "../../workspace/landing/landing.js";

/** Opens the files of a layout. */
export const layoutFiles = async (
  layout: LayoutDefinition,
  setup: ChannelSetup,
  facts: FileFacts,
  staged: StagedFiles,
  templateFolders: readonly string[],
): Promise<LayoutFiles> => {
  const fileLimits = { ...setup.definition.fileLimits, ...layout.fileLimits };
  if (layout.format !== "xlsx") return textFiles(layout, writerFor(layout, facts), fileLimits, staged);
  const { workbookFiles } = await import("./workbook-files.js");
  return workbookFiles(layout satisfies XlsxLayout, setup, facts, staged, templateFolders);
};
