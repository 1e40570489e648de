#!/usr/bin/env node
import { runCommandLine } from "./cli.js";
import { processIo } from "./process-io.js";

process.exitCode = await runCommandLine(process.argv.slice(2), processIo());
