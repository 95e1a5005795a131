/** Which circuits are chosen: none is told where all are. */
export type Chosen = string[] | null;

export const NO_CIRCUITS: string[] = [];

/** The choice with one circuit in or out of it; ``all`` are those there are. */
export function withOne(chosen: Chosen, all: string[], one: string, isIn: boolean): Chosen {
  const others = (chosen ?? all).filter((id) => id !== one);
  return isIn ? [...others, one] : others;
}
