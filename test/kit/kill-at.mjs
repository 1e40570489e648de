// Loaded before the program: ends it by SIGKILL before the change of the disk that KILL_AT counts to, as a power cut would.
import fs from "node:fs";
import { createRequire, syncBuiltinESMExports } from "node:module";

const at = Number(process.env.KILL_AT);
let done = 0;

const step = () => {
  if (++done === at) process.kill(process.pid, "SIGKILL");
};

const before = (owner, names) => {
  for (const name of names) {
    const own = owner[name];
    if (typeof own !== "function") continue;
    owner[name] = function (...args) {
      step();
      return own.apply(this, args);
    };
  }
};

before(fs.promises, ["rename", "unlink", "rm", "mkdir", "writeFile", "copyFile", "chmod", "appendFile"]);
before(fs, ["renameSync", "unlinkSync", "rmSync", "mkdirSync", "writeFileSync", "writeSync"]);

const { open } = fs.promises;
fs.promises.open = async (...args) => {
  step();
  const handle = await open(...args);
  for (const name of ["writeFile", "write", "sync"]) {
    const own = handle[name].bind(handle);
    handle[name] = (...given) => {
      step();
      return own(...given);
    };
  }
  return handle;
};
syncBuiltinESMExports();

const Database = createRequire(import.meta.url)("better-sqlite3");
const { exec } = Database.prototype;
Database.prototype.exec = function (sql) {
  step();
  const result = exec.call(this, sql);
  if (/^COMMIT/.test(sql)) step();
  return result;
};
