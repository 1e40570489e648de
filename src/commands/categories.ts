import { command } from "./command.js";
import { flag, text, limit } from "./options/option.js";
import { withAncestors, type Category } from "../core/channel/category-tree.js";
import { categoryIndex } from "../core/placement/category-index.js";
import { searchCategories } from "../core/placement/search.js";
import { countText } from "../core/diagnostics/phrases.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import type { CommandFile } from "./command-file.js";
import { namedCategory, namedDefinition, workspaceIfAny } from "../flow/channel-definition.js";
import { goodsKnownFor } from "../flow/known-goods.js";

const SHOWN = 30;

// Paths are shown whole: what is cut off at the end is what tells categories apart.
const columns = [{ title: "code" }, { title: "category" }] as const;

/** `lexicant categories CHANNEL [WORDS]`: the channel's tree, searched by words or shown below a category. */
export const categories: CommandFile = command({
  args: [
    ["<channel>", "the channel"],
    ["[words...]", "words to look for; slips of the pen are forgiven"],
  ],
  options: {
    under: text(
      "--under <category>",
      "only below this category, by code or path",
      "is a category's code or path",
    ),
    leaf: flag("--leaf", "only categories that hold no others"),
    limit: limit(`at most so many (${SHOWN} unless in JSON)`),
  },
  examples: [["categories merrowgate bee suit", "where a bee suit could go"]],
  async run({ given, args, options, io }) {
    const [channel = "", ...words] = args;
    const definition = await namedDefinition(options.workspace, channel, io);
    const top = given.under === undefined ? undefined : namedCategory(definition, given.under);
    const meant = (category: Category): boolean =>
      (top === undefined || (category !== top && withAncestors(category).includes(top))) &&
      (!given.leaf || !category.hasChildren);
    const found =
      words.length === 0
        ? definition.tree.all
        : searchCategories(
            words.join(" "),
            categoryIndex(
              definition.tree,
              await goodsKnownFor(await workspaceIfAny(options.workspace, io), channel),
            ),
          ).map(({ category }) => category);
    // Without words the tree is shown level by level: what stands at its top, or right below the category named.
    const level =
      words.length > 0 || given.leaf || options.json
        ? meant
        : (category: Category) => category.parent === top;
    const chosen = found.filter((category) => meant(category) && level(category));
    const limit = given.limit ?? (options.json ? Infinity : SHOWN);
    if (options.json) {
      for (const { code, path, name, isOpen, hasChildren, searchWords } of chosen.slice(0, limit))
        io.out(
          jsonLine({
            type: "category",
            channel,
            code,
            name,
            path,
            open: isOpen,
            leaf: !hasChildren,
            searchWords,
          }),
        );
      return 0;
    }
    if (chosen.length === 0) {
      io.out(
        `No category of ${definition.label} ${words.length > 0 ? "has these words; try fewer or others" : "is meant"}.\n`,
      );
      return 0;
    }
    const rows = chosen
      .slice(0, limit)
      .map(({ code, path, isOpen, hasChildren }) => [
        code,
        `${path}${!isOpen ? "  (takes no listings)" : hasChildren ? "  (has categories below)" : ""}`,
      ]);
    const [head = "", ...lines] = tableLines(columns, rows, io);
    io.out(`${styleFor(io).bold(head)}\n${lines.map((line) => `${line}\n`).join("")}`);
    const more = chosen.length - rows.length;
    if (!options.quiet)
      io.err(
        `${countText(chosen.length, "category", "categories")}${more > 0 ? `; ${countText(more, "more", "more")} with --limit ${chosen.length}` : ""}; what one demands: lexicant fields ${channel} CODE\n`,
      );
    return 0;
  },
});
