/** What can be done on the drawing. */
export interface DrawingActions {
  onOpen: () => void;
  onOpenRun: () => void;
  onAdd: () => void;
  onRefeed: () => void;
  onRemove: () => void;
  onLengthen: (feet: number) => void;
  onLength: (runId: string, feet: number) => void;
  onFeedFrom: (runId: string, fromId: string) => void;
}
