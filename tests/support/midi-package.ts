/** The MIDI package as both kinds of module: Node's own loader gives a CommonJS package as the default, bundlers by name. */
import * as loaded from '@tonejs/midi';

const named = loaded as typeof loaded & { default?: typeof loaded };

export const Midi = named.Midi ?? named.default!.Midi;
