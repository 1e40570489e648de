// Loaded before the program: leaves its greatest memory and its time behind when it ends.
import { writeFileSync } from "node:fs";

process.on("exit", () => {
  const { maxRSS } = process.resourceUsage();
  writeFileSync(
    process.env.PEAK_FILE,
    JSON.stringify({ megabytes: Math.round(maxRSS / 1024), seconds: process.uptime() }),
  );
});
