"""The starters by name: what each holds, in the words of the trade."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from nelvor.model.document import Document
from nelvor.starters.site_builder import Placed, SiteBuilder

SPLIT, WYE = "split_120_240", "wye_208_120"
INDOORS = {"placement": "indoors", "method": "emt", "burial_location": None}
THROUGH_THE_WALL = {"placement": "outdoors", "method": "pvc80", "burial_location": None, "exposed_to_damage": True}


@dataclass(frozen=True)
class Starter:
    """A site to begin from; ``build`` puts its things into a builder."""

    key: str
    title: str
    words: str
    system: str
    build: Callable[[SiteBuilder], None]


def started(key: str, name: str, edition: str) -> Document:
    """Return a new job that begins from a starter.

    Raises:
        KeyError: there is no such starter.
    """
    starter = STARTERS[key]
    builder = SiteBuilder(name, edition, starter.system)
    starter.build(builder)
    return builder.document()


SERVICE_A = 200.0


def _disconnect(site: SiteBuilder, meter: Placed, building_id: str) -> Placed:
    """The service disconnect outdoors, beside the meter, with two rods."""
    disconnect = site.place(
        "disconnect",
        "service-disconnect",
        "Service disconnect",
        meter,
        service=True,
        building_id=building_id,
        service_marking="suitable",
        emergency_marking="service_disconnect",
        surge_protection=True,
        main_a=SERVICE_A,
        run={"length_ft": 2.0},
    )
    site.rods(disconnect, building_id)
    return disconnect


def _meter(site: SiteBuilder, building_id: str) -> Placed:
    return site.place("meter", "meter", "Meter", site.utility(), building_id=building_id, meter_class_a=200.0)


def _service(site: SiteBuilder, building_id: str) -> Placed:
    return _disconnect(site, _meter(site, building_id), building_id)


def _house(site: SiteBuilder) -> str:
    house = site.add("buildings", "house", name="House", use="dwelling", intersystem_terminal=True)
    site.add("dwelling_units", "household", name="Household", building_id=house)
    return house


def _house_meter_main(site: SiteBuilder) -> None:
    house = _house(site)
    main = site.place(
        "disconnect",
        "meter-main",
        "Meter-main",
        site.utility(),
        service=True,
        building_id=house,
        meter_class_a=200.0,
        main_a=SERVICE_A,
        service_marking="suitable",
        emergency_marking="service_disconnect",
        surge_protection=True,
    )
    site.rods(main, house)
    panel = site.place("panel", "panel", "Panel", main, building_id=house, bus_a=200.0, run=INDOORS)
    site.main_lugs(panel)


def _old_panel_inside(site: SiteBuilder) -> None:
    house = _house(site)
    site.standing = "existing"
    meter = _meter(site, house)
    panel = site.place("panel", "old-panel", "Old panel", meter, building_id=house, run=THROUGH_THE_WALL)
    site.change("bonds", "old-panel-bond", made=None)
    site.change("bars", "old-panel-n", insulated=None)
    site.standing = "added"
    site.refeed(panel, _disconnect(site, meter, house), THROUGH_THE_WALL)


def _house_and_garage(site: SiteBuilder) -> None:
    house = _house(site)
    garage = site.add(
        "buildings", "garage", name="Garage", use="other", metal_path_to_supply=False, intersystem_terminal=True
    )
    disconnect = _service(site, house)
    panel = site.place("panel", "panel", "House panel", disconnect, building_id=house, bus_a=200.0, run=INDOORS)
    site.main_lugs(panel)
    feeder = site.feeder(panel, "Feeder to garage panel", 60.0)
    beyond = site.place("panel", "garage-panel", "Garage panel", feeder, building_id=garage, bus_a=125.0, main_a=60.0)
    site.rods(beyond, garage)


def _shop_feeds_house(site: SiteBuilder) -> None:
    shop = site.add("buildings", "shop", name="Shop", use="other", intersystem_terminal=True)
    house = site.add(
        "buildings", "house", name="House", use="dwelling", metal_path_to_supply=False, intersystem_terminal=True
    )
    site.add("dwelling_units", "household", name="Household", building_id=house)
    disconnect = _service(site, shop)
    panel = site.place("panel", "shop-panel", "Shop panel", disconnect, building_id=shop, bus_a=200.0, run=INDOORS)
    site.main_lugs(panel)
    feeder = site.feeder(panel, "Feeder to house", 100.0)
    underground = {"placement": "underground", "method": "pvc40", "burial_location": "general"}
    outside = site.place(
        "disconnect",
        "house-disconnect",
        "House disconnect",
        feeder,
        building_id=house,
        main_a=100.0,
        run=underground,
        emergency_marking="not_service_equipment",
        surge_protection=True,
    )
    site.rods(outside, house)
    inside = site.place("panel", "house-panel", "House panel", outside, building_id=house, bus_a=125.0, run=INDOORS)
    site.main_lugs(inside)


def _small_commercial(site: SiteBuilder) -> None:
    store = site.add("buildings", "store", name="Store", use="commercial", intersystem_terminal=True)
    disconnect = _service(site, store)
    panel = site.place("panel", "panel", "Panel", disconnect, building_id=store, bus_a=225.0, run=INDOORS)
    site.main_lugs(panel)


STARTERS = {
    item.key: item
    for item in (
        Starter(
            "house_meter_main",
            "House with meter-main",
            "Meter and service disconnect in one box outdoors, a panel with main lugs indoors.",
            SPLIT,
            _house_meter_main,
        ),
        Starter(
            "old_panel_inside",
            "Outdoor disconnect ahead of an old panel",
            "A new service disconnect outdoors, fed on by four wires; the panel inside stands and is read on site.",
            SPLIT,
            _old_panel_inside,
        ),
        Starter(
            "house_and_garage",
            "House and detached garage",
            "Service disconnect outdoors, house panel, and a feeder underground to a panel in the garage.",
            SPLIT,
            _house_and_garage,
        ),
        Starter(
            "shop_feeds_house",
            "Shop with the service, house fed from it",
            "Service and panel at the shop, a feeder underground to a disconnect outside the house, a panel inside.",
            SPLIT,
            _shop_feeds_house,
        ),
        Starter(
            "small_commercial",
            "Small commercial, 208Y/120 V",
            "Three-phase service disconnect outdoors and a panel with main lugs indoors.",
            WYE,
            _small_commercial,
        ),
    )
}
