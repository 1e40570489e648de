import { afterAll } from "vitest";
import { removeFolders } from "./run.js";

afterAll(removeFolders);
