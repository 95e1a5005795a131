/** Pull boxes and conduit bodies where they stand along a run. */
import { useSite } from "../../core/context";
import { find, type Run } from "../../core/document";

const WIDTH = 14;

export function BoxMarks({
  run,
  startX,
  endX,
  y,
  half,
}: {
  run: Run;
  startX: number;
  endX: number;
  y: number;
  half: number;
}) {
  const { pulls, boxes } = useSite("pulls", "boxes");
  const length = run.length_ft ?? 0;
  return (pulls ?? [])
    .filter((pull) => pull.run_id === run.id)
    .map((pull) => {
      const box = find(boxes, pull.box_id);
      const share = length > 0 && pull.at_ft !== null ? pull.at_ft / length : 0.5;
      const x = Math.min(Math.max(startX + share * (endX - startX), startX + WIDTH), endX - WIDTH);
      return (
        <g key={pull.id} data-box-mark={pull.box_id} stroke="var(--ink)" strokeWidth={1.6}>
          <title>{box?.name || "Box"}</title>
          <rect
            x={x - WIDTH / 2}
            y={y - half}
            width={WIDTH}
            height={2 * half}
            rx={box?.kind === "conduit_body" ? WIDTH / 2 : 0}
            fill="var(--paper)"
          />
          {box?.kind === "conduit_body" ? null : (
            <path d={`M${x - WIDTH / 2} ${y - half} L${x + WIDTH / 2} ${y + half}`} fill="none" strokeWidth={1} />
          )}
        </g>
      );
    });
}
