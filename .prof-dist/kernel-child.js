import { t as answerCalls } from "./kernel-thread-4UV4J0Tc.js";
import { workerData } from "node:worker_threads";
// service/kernel-child.ts
answerCalls(workerData);
export {};
