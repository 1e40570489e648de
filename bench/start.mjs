// How long a person waits before a short command answers, beside an empty program of Node's.
import { join } from "node:path";
import { lexicant, measureNode, median, row } from "./measure.mjs";

export const run = (folder) => {
  const shop = join(folder, "shop");
  const empty = median(7, () => measureNode(undefined, ["-e", "0"]));
  row("node, an empty program", empty);
  const against = (measured) => `${(measured.seconds / empty.seconds).toFixed(1)} × an empty program`;
  const shown = (title, args) => {
    const measured = median(7, () => lexicant(args));
    row(title, measured, against(measured));
  };
  shown("lexicant --help", ["--help"]);
  row("lexicant demo", lexicant(["demo", shop]));
  shown("lexicant list", ["-C", shop, "list"]);
  shown("lexicant show SKU", ["-C", shop, "show", "BC-1101-10"]);
  shown("lexicant check", ["-C", shop, "check"]);
  shown("lexicant build", ["-C", shop, "build"]);
};
