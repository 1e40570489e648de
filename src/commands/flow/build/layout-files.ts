import type { FileFamily } from "../../../core/listing/file-family.js";
import type { LayoutDefinition, XlsxLayout } from "../../../core/channel/layout-definition.js";
import type { ChannelSetup } from "../../../core/listing/channel-setup.js";
import type { FileFacts } from "../../../layouts/layout.js";
import { writerFor } from "../../../layouts/layouts.js";
import { textFiles } from "./text-files.js";
import type { StagedFiles } from "../../../workspace/staged-files.js";

export interface BuiltFile {
  readonly name: string;
  readonly bytes: number;
  readonly sha256: string;
}

/** The files of one layout on their way: as many as the channel's limits ask for. */
export interface LayoutFiles {
  write(family: FileFamily): Promise<void>;
  finish(): Promise<readonly BuiltFile[]>;
  /** What a person should know of the files. */
  told?(): readonly string[];
}

/** `goods.xml` is followed by `goods-2.xml`. */
export const partName = (file: string, part: number): string =>
  part === 1 ? file : file.replace(/(\.[^.]*)?$/, `-${part}$1`);

/** Opens the files of a layout. */
export const layoutFiles = async (
  layout: LayoutDefinition,
  setup: ChannelSetup,
  facts: FileFacts,
  staged: StagedFiles,
  templateFolders: readonly string[],
): Promise<LayoutFiles> => {
  const { fileLimits } = setup.definition;
  if (layout.format !== "xlsx") return textFiles(layout, writerFor(layout, facts), fileLimits, staged);
  const { workbookFiles } = await import("./workbook-files.js");
  return workbookFiles(layout satisfies XlsxLayout, setup, facts, staged, templateFolders);
};
