/** Buildings as plots behind the boxes that stand in them, one plot for each lane they reach into. */
import type { Schemas } from "../../api/client";
import { useSite } from "../../core/context";
import { textWidth, wrap } from "../../kit/lettering";
import { BOX_WIDTH, LANE_HEIGHT, type Layout } from "./layout";

type Place = Schemas["PlaceOut"];

export function Plots({ places, layout }: { places: Place[]; layout: Layout }) {
  const site = useSite("buildings", "enclosures");
  return (site.buildings ?? []).flatMap((building) => {
    const inside = new Set(
      (site.enclosures ?? []).filter((item) => item.building_id === building.id).map((item) => item.id),
    );
    const standing = places.filter((place) => inside.has(place.id));
    return [...new Set(standing.map((place) => place.lane))].map((lane) => {
      const xs = standing.filter((place) => place.lane === lane).map((place) => layout.x(place.x_ft));
      const left = Math.min(...xs) - BOX_WIDTH / 2 - 9;
      const right = Math.max(...xs) + BOX_WIDTH / 2 + 9;
      const middle = (left + right) / 2;
      const wide = Math.max(right - left, Math.min(textWidth(building.name, 10.5) + 12, 96));
      return (
        <g key={`${building.id}:${lane}`}>
          <rect
            x={middle - wide / 2}
            y={lane * LANE_HEIGHT + 2}
            width={wide}
            height={LANE_HEIGHT - 50}
            rx={3}
            fill="var(--plot)"
            stroke="var(--rule)"
          />
          <text
            data-label
            x={middle - wide / 2 + 5}
            y={lane * LANE_HEIGHT + 14}
            fontSize={10.5}
            className="narrow"
            fill="var(--soft)"
          >
            {wrap(building.name, Math.min(wide - 4, 170), 10.5, false, 1)[0]}
          </text>
        </g>
      );
    });
  });
}
