/** Things to be added together: each gets an id that is free beside the others. */
import { freshId, listOf, type Document, type ListName, type State, type Thing } from "./document";
import { insert, type Operation } from "./changes";

export class Draft {
  readonly operations: Operation[] = [];
  /** ``document`` is the whole one: ids of things of the other state are taken, too. */
  constructor(
    private document: Document,
    private readonly standing: "existing" | "added",
  ) {}

  add(list: ListName, wish: string, thing: Record<string, unknown>): string {
    const id = freshId(this.document, wish);
    const added = insert(list, { ...thing, id, standing: this.standing });
    this.operations.push(added);
    const whole = added.op === "insert" ? added.thing : {};
    this.document = {
      ...this.document,
      [list]: [...listOf(this.document, list), whole as unknown as Thing],
    };
    return id;
  }
}

export function standingIn(state: State): "existing" | "added" {
  return state === "existing" ? "existing" : "added";
}
