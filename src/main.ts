#!/usr/bin/env node
import { runCommandLine } from "./cli/command-line.js";
import { processIo } from "./cli/process-io.js";

process.exitCode = await runCommandLine(process.argv.slice(2), processIo());
