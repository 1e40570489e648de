import { rowsOf, type FileFamily } from "../../../core/listing/file-family.js";
import type { FileLimits } from "../../../core/channel/definition.js";
import type { LayoutDefinition, XlsxLayout } from "../../../core/channel/layout-definition.js";
import type { ChannelSetup } from "../../../core/listing/channel-setup.js";
import type { FileFacts, LayoutWriter } from "../../../layouts/layout.js";
import { writerFor } from "../../../layouts/layouts.js";
import type { StagedFile, StagedFiles } from "../../../workspace/staged-files.js";

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

/** `gavelstead.xml` is followed by `gavelstead-2.xml`. */
export const partName = (file: string, part: number): string =>
  part === 1 ? file : file.replace(/(\.[^.]*)?$/, `-${part}$1`);

const MEGABYTE = 1_000_000;

/** Text in files that keep to the channel's limits; a family is never torn over two. */
const textFiles = async (
  file: string,
  writer: LayoutWriter,
  { rows: mostRows = Infinity, megabytes = Infinity }: FileLimits,
  staged: StagedFiles,
): Promise<LayoutFiles> => {
  const built: BuiltFile[] = [];
  const tail = writer.tail();
  const mostBytes = megabytes * MEGABYTE - Buffer.byteLength(tail);
  let [part, rows, bytes] = [1, 0, 0];
  const begin = async (): Promise<StagedFile> => {
    const opened = await staged.create(partName(file, part));
    const head = writer.head();
    await opened.write(head);
    bytes = Buffer.byteLength(head);
    rows = 0;
    return opened;
  };
  let open = await begin();
  const end = async (): Promise<void> => {
    await open.write(tail);
    built.push(await open.finish());
  };
  return {
    async write(family) {
      const count = rowsOf(family).length;
      let text = writer.family(family, rows === 0);
      if (rows > 0 && (rows + count > mostRows || bytes + Buffer.byteLength(text) > mostBytes)) {
        await end();
        part++;
        open = await begin();
        text = writer.family(family, true);
      }
      await open.write(text);
      rows += count;
      bytes += Buffer.byteLength(text);
    },
    async finish() {
      await end();
      return built;
    },
  };
};

/** Opens the files of a layout. */
export const layoutFiles = async (
  layout: LayoutDefinition,
  setup: ChannelSetup,
  facts: FileFacts,
  staged: StagedFiles,
  templateFolders: readonly string[],
): Promise<LayoutFiles> => {
  const { fileLimits } = setup.definition;
  if (layout.format !== "xlsx") return textFiles(layout.file, writerFor(layout, facts), fileLimits, staged);
  const { workbookFiles } = await import("./workbook-files.js");
  return workbookFiles(layout satisfies XlsxLayout, setup, facts, staged, templateFolders);
};
