// Writes docs/functions.md from the functions' own descriptions; the tests run each example and compare the page.
import { writeFileSync } from "node:fs";
import { build, install, outputPath } from "./setup.mjs";

install();
build();
const { functionsPage } = await import("../dist/core/language/functions-page.js");
writeFileSync(outputPath("docs", "functions.md"), functionsPage());
