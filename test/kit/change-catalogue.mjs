// Lets another hand change the catalogue between the moment when a command begins and the moment when its threads look.
import { createRequire } from "node:module";
import { join } from "node:path";
import { isMainThread, workerData } from "node:worker_threads";

if (!isMainThread && workerData?.root !== undefined) {
  const Database = createRequire(process.argv[1])("better-sqlite3");
  const store = new Database(join(workerData.root, ".lexicant", "store.db"));
  store.exec("UPDATE revision SET at = at || ' later' WHERE id = 1");
  store.close();
}
