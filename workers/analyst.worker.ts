/** The analyst in a web worker. */
import { expose } from 'comlink';
import { Analyst } from './analyst';

expose(new Analyst());
