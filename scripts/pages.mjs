// Writes the pages that follow from what they describe: functions, JSON, the manual. The tests compare them.
import { writeFileSync } from "node:fs";
import { jsonPage } from "./json-page.mjs";
import { join } from "node:path";
import { manualPage } from "./manual-page.mjs";
import { build, install, outputPath, root } from "./setup.mjs";

install();
build();
const { functionsPage } = await import("../modules/core/language/functions-page.js");
writeFileSync(outputPath("docs", "functions.md"), functionsPage());
writeFileSync(outputPath("docs", "json.md"), jsonPage(join(root, "docs", "schemas")));
const { commands } = await import("../modules/commands/commands.js");
const { commonOptions } = await import("../modules/commands/options/common-options.js");
const { environmentVariables } = await import("../modules/commands/options/environment.js");
const { exitCodes } = await import("../modules/io/exit-code.js");
const { version } = await import("../modules/workspace/version.js");
const manual = await manualPage({
  ...{ commands, common: commonOptions, variables: environmentVariables, exits: exitCodes },
  version: version(),
});
writeFileSync(outputPath("man", "lexicant.1"), manual);
