import { answerCalls, type ThreadStart } from '../../core/kernels/kernel-thread.ts';

addEventListener('message', (event: MessageEvent<ThreadStart>) => answerCalls(event.data), { once: true });
