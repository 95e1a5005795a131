/** The plates of sources that the shop keeps. */
import { useEffect, useState } from "react";
import { answered, api, type Schemas } from "../api/client";

export type Plate = Schemas["SourcePlate"];

/** Return the plates of the shop, none until they have come, or where `wanted` is false. */
export function usePlates(wanted: boolean): Plate[] {
  const [plates, setPlates] = useState<Plate[]>([]);
  useEffect(() => {
    let current = wanted;
    if (wanted)
      answered(api.GET("/api/shop/sources"))
        .then((kept) => current && setPlates(kept.plates))
        .catch(() => undefined); // without the list all is filled in by hand
    return () => {
      current = false;
    };
  }, [wanted]);
  return plates;
}
