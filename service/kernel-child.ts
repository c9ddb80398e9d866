import { workerData } from 'node:worker_threads';
import { answerCalls, type ThreadStart } from '../core/kernels/kernel-thread.ts';

answerCalls(workerData as ThreadStart);
