/** What the Desk asks for before anybody has said anything: for tests of the analyst and of what shows its answers. */
import { USUAL_INTONATION } from '../../core/checks/target';
import { NOTHING_TOLD } from '../../core/instruments/as-told';
import { USUAL_PREFERENCES } from '../../core/left-hand/preferences';
import type { Conditions } from '../../workers/questions';

export const PLAIN_CONDITIONS: Conditions = {
  marking: {},
  player: null,
  tempo: null,
  told: NOTHING_TOLD,
  preferences: USUAL_PREFERENCES,
  density: 'usual',
  intonation: USUAL_INTONATION,
  line: 0,
};
