/** The score analyst in a web worker. */
import { expose } from 'comlink';
import { ScoreAnalyst } from './score-analyst';

expose(new ScoreAnalyst());
