"""Breakers marked 120/240: none on a system with a leg above 120 V to ground (240.85)."""

from __future__ import annotations

from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.topology.site import Site

DELTA = frozenset({"delta_240", "delta_240_high_leg"})
ABOVE_120_V_TO_GROUND = frozenset({"wye_480_277", "delta_240_high_leg", "delta_240"})


def judge_slash_ratings(site: Site, judge: Judge, enclosure_id: str) -> None:
    """Judge the markings of all devices of an enclosure; on a delta those not known are asked for."""
    system = site.system_at(enclosure_id)
    if system not in ABOVE_120_V_TO_GROUND:
        return
    devices = site.devices_in.get(enclosure_id, [])
    unknown = [device for device in devices if device.slash_rated is None]
    if unknown and system in DELTA:
        text = (
            f"It is not known whether {unknown[0].name or unknown[0].id} is marked 120/240 V, which this system does not allow"
            f"{f'; the same of {len(unknown) - 1} more' if len(unknown) > 1 else ''}. Enter its marking."
        )
        asks = tuple((device.id, "slash_rated") for device in unknown)
        judge.cannot_tell("slash_rating", text, "slash_rating", asks=asks)
    for device in devices:
        if device.slash_rated:
            judge.must_fix(
                "slash_rating",
                f"{device.name or device.id} is marked 120/240 V and stands on a system with a leg above 120 V to "
                "ground. Use a breaker with a straight rating.",
                "slash_rating",
                mend=Mend("Use a straight rating", proposing("devices", device, slash_rated=False)),
            )
