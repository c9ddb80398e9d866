import { expose } from 'comlink';
import { createEngine } from './engine.ts';

expose(createEngine());
