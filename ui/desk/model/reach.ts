/** Goes to, or does, what was found by its name. */
import { deskDeeds, obeying } from './deeds';
import type { Aim } from './found-places';
import type { DeskModel } from './use-desk-model';

export function reach(desk: DeskModel, aim: Exclude<Aim, { to: 'page' }>): void {
  switch (aim.to) {
    case 'place':
      return deskDeeds(desk).goTo(aim.place);
    case 'bars': {
      const inside = desk.order.filter(({ barIndex }) => barIndex >= aim.bars.fromBar && barIndex <= aim.bars.toBar);
      if (!inside.length) return desk.goToBar(aim.bars.fromBar);
      desk.go(inside[0]!.id);
      return desk.pick(inside.at(-1)!.id, true);
    }
    case 'passage':
      return desk.openPassage(aim.index);
    case 'player':
      return desk.setting({ playerId: aim.playerId });
    case 'dialog':
      return desk.setDialog(aim.dialog);
    case 'command':
      return obeying(desk)(aim.command);
  }
}
