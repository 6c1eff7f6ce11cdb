import { DESK_GROUPS, DESK_ORDERS, type DeskGroup, type DeskOrder } from '@inkwell-twin/api/light';

/** How the Desk lies: in which order, grouped by what, showing which. */
export interface Lie {
  readonly order: DeskOrder;
  readonly group: DeskGroup;
  readonly verdict: string;
  readonly keyword: string;
  readonly place: string;
  /** Whether many rows are to fit on a screen. */
  readonly dense: boolean;
}
const LIE = 'inkwell-desk';
/** How the Desk lay last, in this browser. */
export function lieOfLast(): Lie {
  const plain: Lie = { order: 'begun', group: 'none', verdict: '', keyword: '', place: '', dense: false };
  try {
    const { order, group, dense } = JSON.parse(localStorage.getItem(LIE) ?? '{}') as Partial<Lie>;
    return {
      ...plain,
      ...(DESK_ORDERS.includes(order!) ? { order: order! } : {}),
      ...(DESK_GROUPS.includes(group!) ? { group: group! } : {}),
      dense: dense === true,
    };
  } catch {
    return plain;
  }
}

/** Remembers how it lies; what is sought comes anew each time. */
export function rememberLie({ order, group, dense }: Lie): void {
  localStorage.setItem(LIE, JSON.stringify({ order, group, dense }));
}
