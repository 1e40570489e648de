// Preloaded into a measured program: leaves its peak memory and CPU time in the file that LEXICANT_USAGE names.
import { writeFileSync } from "node:fs";

process.on("exit", () => {
  const { maxRSS, userCPUTime, systemCPUTime } = process.resourceUsage();
  const file = process.env.LEXICANT_USAGE;
  if (file !== undefined)
    writeFileSync(
      file,
      JSON.stringify({ peakMegabytes: maxRSS / 1024, cpuSeconds: (userCPUTime + systemCPUTime) / 1e6 }),
    );
});
