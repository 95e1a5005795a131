"""Where power comes from and what switches or transforms it: sources, transfer gear, interlocks, transformers."""

from __future__ import annotations

from nelvor.model.base import Id, Name, Rating, Thing
from nelvor.model.limits import Amount, FaultCurrent, Impedance, Poles, Positive, PowerFactor, Seconds, Volts
from nelvor.model.vocabulary import (
    Leg,
    NeutralPath,
    OutputKind,
    PipingBond,
    RapidShutdown,
    RelayKind,
    SourceKind,
    SourceMarking,
    System,
)


class Source(Thing):
    """Where power comes from: the utility, a generator, an inverter. It is its own terminals; its inner bond is a ``Bond``.

    ``charging_a`` is the most that its storage takes from its lines, 0 where it takes nothing;
    ``output`` tells what it gives, ``neutral_path`` what becomes of a neutral between its input and its output,
    ``relay`` what a bonding relay in it does, ``marking`` what its label says of its neutral; ``utility_agrees`` that it may be joined
    ahead of the service disconnect, ``joint_listed`` that its joint there is listed. What its direct-current side needs is entered as facts: a disconnect in reach, rapid
    shutdown and its switch, the frames of the array, and of storage its disconnect and its place; of a set what stops
    it and whether its disconnect stands within sight; of one that can go on alone what parts it from the utility, ``island_device_``;
    ``neutral_senses_only`` that its neutral only measures and carries no power; ``unbalance_accepted`` that a one-phase source leaves a three-phase system balanced enough.
    """

    name: Name = ""
    kind: SourceKind = "utility"
    system: System | None = None
    enclosure_id: Id | None = None
    fault_current_a: FaultCurrent | None = None
    transformer_kva: Positive | None = None
    impedance_percent: Impedance | None = None
    rated_output_a: Rating | None = None
    rated_output_v: Volts | None = None
    rated_kva: Positive | None = None
    power_factor: PowerFactor | None = None
    largest_device_a: Rating | None = None
    charging_a: Amount | None = None
    fault_contribution_a: FaultCurrent | None = None
    fault_contribution_s: Seconds | None = None
    interactive: bool | None = None
    forms_supply: bool | None = None
    output: OutputKind | None = None
    portable: bool | None = None
    neutral_path: NeutralPath | None = None
    relay: RelayKind | None = None
    outlet_with_interrupter: bool | None = None
    marking: SourceMarking | None = None
    utility_agrees: bool | None = None
    joint_listed: bool | None = None
    disconnect_in_reach: bool | None = None
    rapid_shutdown: RapidShutdown | None = None
    shutdown_switch_outdoors: bool | None = None
    array_bonded: PipingBond | None = None
    storage_disconnect: bool | None = None
    storage_place_as_required: bool | None = None
    emergency_stop: bool | None = None
    stop_outdoors: bool | None = None
    isolated_for_work: bool | None = None
    leaves_dead_grid: bool | None = None
    island_device_listed: bool | None = None
    island_device_protected: bool | None = None
    rejoins_in_step: bool | None = None
    disconnect_within_sight: bool | None = None
    area_metal: PipingBond | None = None
    always_this_set: bool | None = None
    unbalance_accepted: bool | None = None
    neutral_senses_only: bool | None = None


class Transfer(Thing):
    """Transfer gear within an enclosure: switched poles that join its load terminals to one throw at a time.

    Its positions are its throws, by their names; which one is closed belongs to a scenario and is not stored.
    ``lines_only`` marks gear that moves the lines of single circuits and leaves their neutrals; ``sheds_load`` tells
    that equipment takes off by itself what the standby supply does not carry. Gear that is a box of ``CircuitSwitch`` moves
    circuits whose breakers stay in their panel; ``switches_protected`` tells whether each switch has a breaker or fuse of its own.
    """

    enclosure_id: Id
    name: Name = ""
    load_part: Id
    rating_a: Rating | None = None
    poles: Poles | None = None
    switches_neutral: bool | None = None
    break_before_make: bool | None = None
    may_run_parallel: bool | None = None
    automatic: bool | None = None
    sheds_load: bool | None = None
    service_rated: bool | None = None
    lines_only: bool | None = None
    meter_mounted: bool | None = None
    utility_agrees: bool | None = None
    switches_protected: bool | None = None


class CircuitSwitch(Thing):
    """A switch of transfer gear that moves the circuit of one breaker, which stays in its panel, to the standby supply and back.

    ``leg`` is the line of that supply it moves the circuit to, ``rating_a`` its own breaker or fuse, ``tied_to`` a switch
    whose handle goes with its own. A circuit of two poles has two.
    """

    transfer_id: Id
    name: Name = ""
    leg: Leg | None = None
    device_id: Id | None = None
    rating_a: Rating | None = None
    tied_to: Id | None = None


class Throw(Thing):
    """One position of transfer gear: its name, the terminals of its lines, and the bar of its neutral."""

    transfer_id: Id
    name: Name = ""
    part: Id
    neutral_part: Id | None = None


class Interlock(Thing):
    """Two devices that cannot be on together."""

    name: Name = ""
    device_a: Id
    device_b: Id
    listed: bool | None = None


class Transformer(Thing):
    """A transformer: primary and secondary terminals, rating in kVA. ``isolating`` is no for an autotransformer.

    One whose secondary is a neutral bar makes no other voltage: it forms a neutral between the two lines of its primary,
    and is no isolating one either; ``listed_for_neutral`` and ``opens_source`` tell of it that it is listed for that, and that its
    device opens the source too. ``fed_as_marked`` tells that it is fed at its marked primary, or as its maker allows,
    ``area_metal`` whether water pipes and steel of the area that it serves are joined to its neutral; so of a source that is a system of
    its own.
    """

    enclosure_id: Id
    primary_part: Id
    secondary_part: Id
    kva: Positive | None = None
    primary_v: Volts | None = None
    secondary_system: System | None = None
    impedance_percent: Impedance | None = None
    isolating: bool | None = None
    listed_for_neutral: bool | None = None
    opens_source: bool | None = None
    fed_as_marked: bool | None = None
    area_metal: PipingBond | None = None
