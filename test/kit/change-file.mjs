// Writes a file anew when a thread beside the first begins, before it has opened anything.
import { writeFileSync } from "node:fs";
import { isMainThread } from "node:worker_threads";

if (!isMainThread) writeFileSync(process.env.LEXICANT_CHANGED_FILE, "sku,name\nK-9,Another list\n");
