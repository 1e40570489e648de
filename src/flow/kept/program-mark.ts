import { statSync } from "node:fs";
import { fileURLToPath } from "node:url";

/** When this program was built: what one that was built before has kept may be what this one would not find. */
export const programMark = (): number => statSync(fileURLToPath(import.meta.url)).mtimeMs;
