/** 0 done, 1 done with errors in the data, 2 wrong usage or configuration, 3 could not finish. */
export type ExitCode = 0 | 1 | 2 | 3;
