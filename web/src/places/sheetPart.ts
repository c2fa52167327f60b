import { part } from './part';

/** The dialog that changes a part of the sheet: asked for when its button is pointed at, there when it is pressed. */
export const sheetDialog = part(() => import('../sheet/SheetDialog').then((m) => m.default));
