/** Written by `make openapi` from the declarations of the rules (dorrik/api/declared.py). */
/** What may stand in each field of an entity, by its kind; null for nothing. */
export interface Fields {
  inspection: {
    reference: string;
    client_name: string;
    client_address: string;
    property_address: string;
    occupier_name: string;
    tenure: "let dwelling" | "owner-occupied dwelling" | "shared house let by the room" | "holiday let";
    purpose: "periodic" | "change of occupier" | "purchase" | "before an alteration" | "after damage";
    nation: "England" | "Scotland" | "Wales" | "Northern Ireland" | "Ireland";
    property_id: string;
    installation_id: string;
    installation_name: string;
    job_id: string;
    must_stay_on: string;
    power_off: string;
    access: string;
    carried_from: string;
    held_at: string;
    held_reason: string;
    return_on: string;
    operator_called_at: string;
    no_photos: boolean;
    extent: string;
    inspected_on: string;
    rule_book: "bs7671-2018" | "is10101-2020";
    house_rules: Record<string, unknown>;
    table_corrections: Record<string, unknown>[];
    catalogue: Record<string, unknown>[];
    records: "good" | "fair" | "poor" | "none";
    condition_on_sight: "good" | "fair" | "poor";
    other_hands: boolean;
    damp: boolean;
    age_years: number;
    last_report_years: number;
    sampling_seed: number;
    sample_share: number;
    sample_share_reason: string;
    walk_direction: "left hand to the wall" | "right hand to the wall";
    leads_ohm: number;
    earthing: "TN-C-S" | "TN-S" | "TT";
    phases: "1" | "3";
    service_fuse_standard: string;
    service_fuse_a: number;
    tails_mm2: number;
    tails_length_m: number;
    tails_protected: boolean;
    switch_fuse_a: number;
    neutral_mm2: number;
    earthing_conductor_mm2: number;
    earth_by: "network operator's terminal" | "electrode" | "water pipe" | "gas pipe";
    electrode: string;
    meter_number: string;
    meter_seals: "whole" | "broken" | "none seen";
    isolator: "present" | "none";
    isolator_a: number;
    fuse_read: "the fuse itself" | "its carrier alone" | "papers";
    maximum_demand_a: number;
    demand_measured_a: number;
    other_source: "none" | "solar" | "battery" | "solar and battery" | "generator";
    overhead_supply: boolean;
    storey: "house or ground floor" | "upper floor flat";
    flat_above: boolean;
    leakage_ma: string;
    bonding_mm2: number;
    bonding_to: string;
    ze_ohm: string;
    ze_parallel_removed: boolean;
    pscc_ka: string;
    pefc_ka: string;
    supply_voltage_v: number;
    supply_polarity: "correct" | "incorrect" | "LIM" | "N/A";
    supply_shared_with: string;
    condition: string;
    declared_outcome: "satisfactory" | "unsatisfactory";
    outcome_reason: string;
    next_years: number;
    next_reason: string;
  };
  bond: {
    position: number;
    service: "water" | "gas" | "oil" | "structural steel" | "lightning protection" | "other";
    state: "present" | "missing" | "not seen" | "plastic service";
    place: string;
    csa_mm2: number;
    length_m: number;
    at_clamp_ohm: string;
    at_pipe_ohm: string;
    unconfirmed: boolean;
    removed: boolean;
  };
  board: {
    position: number;
    name: string;
    location: string;
    ways: number;
    main_switch_a: number;
    main_switch_at: "left end" | "right end" | "in the middle";
    ways_left: number;
    main_switch_kind: "switch" | "RCCB" | "switch-fuse" | "breaker" | "none";
    outbuilding: boolean;
    extraneous: "none" | "bonded" | "not bonded" | "not known";
    only_way_out: boolean;
    no_cpc_notice: boolean;
    conditional_ka: number;
    zdb_ohm: string;
    zdb_retested: boolean;
    insulation_ln_mohm: string;
    insulation_lne_mohm: string;
    insulation_switches: "all closed" | "some open";
    insulation_open_at: string;
    spd_state: "sound" | "spent" | "none" | "not verified";
    spd_uc_v: number;
    spd_u_dc_v: string;
    fed_by: string;
    phases: "1" | "3";
    earthing: "of the supply" | "own electrode";
    electrode_ohm: string;
    electrode_alone: boolean;
    isolated_at: string;
    isolated_lock: string;
    unconfirmed: boolean;
    removed: boolean;
  };
  rcd: {
    position: number;
    name: string;
    place: "whole board" | "its circuits" | "one circuit";
    standard: "BS EN 61008" | "BS EN 61009" | "BS EN 62423" | "BS EN 60947-2" | "BS 7288" | "BS 4293" | "voltage-operated";
    kind: "AC" | "A" | "F" | "B";
    rating_a: number;
    rated_ma: number;
    delay: "none" | "S";
    delay_ms: number;
    trip_ms: string;
    half: "correct" | "incorrect" | "LIM" | "N/A";
    five_ms: string;
    button: "correct" | "incorrect" | "LIM" | "N/A";
    leakage_ma: string;
    both_ways: "yes" | "no" | "not marked";
    unconfirmed: boolean;
    removed: boolean;
  };
  circuit: {
    position: number;
    way: string;
    designation: string;
    spare: boolean;
    untraced: boolean;
    phase: "L1" | "L2" | "L3" | "all three";
    rcd_group: string;
    form: "ring" | "radial";
    serves: "sockets" | "lighting" | "fixed" | "distribution";
    points_served: number;
    line_csa_mm2: number;
    cpc_csa_mm2: number;
    cable_method: "100" | "101" | "102" | "103" | "C" | "A" | "B" | "D" | "not known";
    cable_length_m: number;
    cable_hidden: boolean;
    design_current_a: number;
    outlet_with_socket: boolean;
    rating_factor: number;
    cable_type: "flat twin and earth" | "singles" | "armoured 70 °C" | "armoured 90 °C" | "mineral insulated";
    imperial: "1/.044" | "3/.029" | "3/.036" | "7/.029" | "7/.036" | "7/.044" | "7/.052" | "7/.064";
    no_cpc: boolean;
    supplementary_bonding: "present" | "missing" | "not seen";
    one_fused_load: boolean;
    load_fuse_a: number;
    outdoors: boolean;
    bathroom: boolean;
    appliance: "cooker" | "hob" | "shower" | "immersion heater" | "boiler" | "heater" | "heat pump" | "hot tub" | "swimming pool" | "caravan hook-up" | "boat supply" | "alarm system" | "other";
    load: "resistive" | "electronics" | "variable-speed" | "inverter" | "vehicle";
    vehicle_outdoors: boolean;
    neutral_guard: "own electrode" | "device that watches the neutral" | "none" | "not known";
    earthed_by: "of the supply" | "own electrode";
    own_rcd: "30 mA or less" | "more than 30 mA" | "none";
    both_ways: "yes" | "no" | "not marked";
    core_colours: "red and black" | "brown and blue" | "both";
    fitted_from: number;
    fitted_to: number;
    fitted_by: "colours of its cores" | "type of board" | "labels" | "date on an alarm" | "accessories" | "papers" | "what people say";
    continuity_method: "ends cross-connected" | "ring left in place" | "long lead" | "sockets compared";
    ends_at: "the board" | "a socket";
    ends_at_point: string;
    neutral_at: string;
    second_csa_mm2: number;
    second_at: "second cable at the way" | "further along" | "branch";
    dc_detection: boolean;
    device_standard: "BS EN 60898" | "BS EN 61009" | "BS 3871" | "BS 3036" | "BS 1361" | "BS 88-3" | "BS 88-2" | "BS 1362" | "BS EN 60947-2";
    device_type: "B" | "C" | "D" | "1" | "2" | "3" | "4" | "rewirable" | "I" | "II" | "gG" | "plug";
    device_rating_a: number;
    device_breaking_ka: number;
    rcd_id: string;
    rcd_standard: "BS EN 61008" | "BS EN 61009" | "BS EN 62423" | "BS EN 60947-2" | "BS 7288" | "BS 4293" | "voltage-operated";
    rcd_delay: "none" | "S";
    rcd_rated_ma: number;
    rcd_kind: "AC" | "A" | "F" | "B";
    fault_protection: "overcurrent device" | "RCD";
    r1_ohm: string;
    rn_ohm: string;
    r2_ohm: string;
    r1_r2_ohm: string;
    long_lead_r2_ohm: string;
    live_r1_r2_ohm: string;
    insulation_ln_mohm: string;
    insulation_lne_mohm: string;
    insulation_le_mohm: string;
    insulation_ne_mohm: string;
    insulation_pairings: "L+N–E" | "all three";
    insulation_test_v: "100" | "250" | "500" | "1000";
    insulation_switches: "all closed" | "some open";
    insulation_open_at: string;
    loads_removed: boolean;
    insulation_leg_one_mohm: string;
    insulation_leg_two_mohm: string;
    polarity: "correct" | "incorrect" | "LIM" | "N/A";
    zs_ohm: string;
    zs_not_possible: "RCD trips on the test" | "no point could be reached" | "nothing to test at" | "supply was off" | "live tests stopped" | "other";
    rcd_trip_ms: string;
    rcd_half: "correct" | "incorrect" | "LIM" | "N/A";
    rcd_five_ms: string;
    rcd_button: "correct" | "incorrect" | "LIM" | "N/A";
    lowered_to_a: number;
    lowered_agreed_with: string;
    swap_with: string;
    swap_line_ohm: string;
    swap_neutral_ohm: string;
    swap_cpc_ohm: string;
    switches_both_ways: boolean;
    controls_bridged: boolean;
    joined_with: string;
    joined_by: "line" | "neutral" | "all conductors" | "exchanged ends";
    afdd: boolean;
    afdd_button: "correct" | "incorrect" | "LIM" | "N/A";
    leakage_ma: string;
    unconfirmed: boolean;
    removed: boolean;
  };
  room: {
    position: number;
    name: string;
    kind: "hall, landing or stairs" | "living room" | "kitchen" | "bedroom" | "bath or shower" | "utility" | "cupboard" | "loft" | "garage" | "outdoors" | "communal";
    floor: "cellar" | "ground" | "first" | "second" | "third or higher" | "roof space" | "outside";
    escape_route: boolean;
    not_reached: "furniture in the way" | "locked" | "sealed or painted over" | "too high" | "occupier asked not to" | "in use" | "no safe way to it" | "other";
    note: string;
    walked_at: string;
    length_m: number;
    width_m: number;
    basin: "bath" | "shower tray" | "no tray";
    basin_length_m: number;
    basin_width_m: number;
    basin_x_m: number;
    basin_y_m: number;
    shower_head_m: number;
    jets: boolean;
    partitions: Record<string, unknown>[];
    removed: boolean;
  };
  point: {
    position: number;
    name: string;
    room_id: string;
    room: string;
    kind: "socket" | "light" | "switch" | "fused unit" | "fixed equipment" | "joint" | "cooker outlet" | "cooker outlet with socket" | "shaver supply unit" | "downlights" | "fan" | "alarm" | "shower" | "pull cord" | "outdoor point";
    at_end: boolean;
    looked: "fine" | "defect";
    opened: boolean;
    tested: boolean;
    not_reached: "furniture in the way" | "locked" | "sealed or painted over" | "too high" | "occupier asked not to" | "in use" | "no safe way to it" | "other";
    note: string;
    delicate: "USB socket" | "dimmer" | "LED driver" | "sensor or timer" | "electronic control" | "other electronics";
    sample: "added" | "left out";
    sample_reason: string;
    alarm: "smoke" | "heat" | "carbon monoxide";
    replace_by: string;
    above: "open void" | "insulation laid on it" | "timber close to it" | "another dwelling" | "not seen";
    fire_rated: boolean;
    plan_x_m: number;
    plan_y_m: number;
    defect: string;
    class_ii: boolean;
    front: "metal" | "insulating";
    no_cpc: boolean;
    accessible_with: string;
    supplementary_ohm: string;
    line_neutral_ohm: string;
    line_cpc_ohm: string;
    r2_ohm: string;
    first_line_neutral_ohm: string;
    first_line_cpc_ohm: string;
    first_r2_ohm: string;
    zs_ohm: string;
    two_gangs: boolean;
    gang_line_neutral_ohm: string;
    gang_line_cpc_ohm: string;
    gang_r2_ohm: string;
    gang_zs_ohm: string;
    lampholder: "bayonet" | "screw" | "screw, thread dead without a lamp";
    centre_contact: "correct" | "incorrect" | "LIM" | "N/A";
    functional: "correct" | "incorrect" | "LIM" | "N/A";
    metal_earth_v: number;
    leg_one_ohm: string;
    leg_two_ohm: string;
    retested: boolean;
    traced: "on the ring" | "on a spur alone" | "beyond a point on a spur" | "fused";
    polarity: "correct" | "incorrect" | "LIM" | "N/A";
    line_neutral_v: number;
    line_earth_v: number;
    neutral_earth_v: number;
    bathroom: boolean;
    height_m: number;
    distance_m: number;
    inside_basin: boolean;
    no_basin: boolean;
    screened: boolean;
    shower_head_m: number;
    jets: boolean;
    water_protection: number;
    ip_unmarked: boolean;
    removed: boolean;
  };
  earlier: {
    measured_on: string;
    figure: "r1_ohm" | "rn_ohm" | "r2_ohm" | "r1_r2_ohm" | "long_lead_r2_ohm" | "insulation_ln_mohm" | "insulation_lne_mohm" | "zs_ohm" | "rcd_trip_ms" | "line_neutral_ohm" | "line_cpc_ohm" | "r2_ohm";
    reading: string;
    source: string;
    removed: boolean;
  };
  observation: {
    about_entity: "inspection" | "bond" | "board" | "rcd" | "circuit" | "point" | "room" | "check";
    about_id: string;
    place: string;
    text: string;
    code: "C1" | "C2" | "C3" | "FI" | "note";
    code_reason: string;
    catalogue_key: string;
    answers: Record<string, unknown>;
    opinion_asked_at: string;
    told_to: string;
    told_at: string;
    told_said: string;
    made_safe: "made safe" | "refused" | "not possible now";
    made_safe_how: string;
    consent_of: string;
    mended: boolean;
    as_left: string;
    retest: string;
    removed: boolean;
  };
  opinion: {
    by: string;
    code: "C1" | "C2" | "C3" | "FI" | "note";
    reason: string;
    given_at: string;
    removed: boolean;
  };
  declined: {
    about_id: string;
    catalogue_key: string;
    code: "C1" | "C2" | "C3" | "FI" | "note";
    reason: string;
    removed: boolean;
  };
  limitation: {
    about_entity: "inspection" | "bond" | "board" | "rcd" | "circuit" | "point" | "room";
    about_id: string;
    what: string;
    reason: string;
    agreed_with: string;
    agreed_on: string;
    removed: boolean;
  };
  overruling: {
    about_id: string;
    field: string;
    of_reading: string;
    status: "pass" | "attention" | "fail";
    reason: string;
    removed: boolean;
  };
  isolation: {
    by: string;
    source: string;
    proved_at: string;
    isolated_at: string;
    isolated_where: string;
    lock: string;
    key_with: string;
    pairings: Record<string, unknown>;
    proved_again_at: string;
    restored_at: string;
    removed: boolean;
  };
  check: {
    item: string;
    state: "good" | "not good" | "LIM" | "N/A";
    note: string;
    removed: boolean;
  };
  attendance: {
    who: string;
    purpose: "inspection" | "second inspector" | "return visit" | "trainee";
    arrived_at: string;
    left_at: string;
    note: string;
    countersigned_at: string;
    countersigned_by: string;
    removed: boolean;
  };
  instrument_used: {
    register_id: string;
    name: string;
    kind: string;
    serial: string;
    calibration_due: string;
    continuity_percent: number;
    continuity_digits: number;
    insulation_percent: number;
    insulation_digits: number;
    loop_percent: number;
    loop_digits: number;
    continuity_top_ohm: number;
    insulation_top_mohm: number;
    loop_top_ohm: number;
    trip_percent: number;
    trip_digits: number;
    removed: boolean;
  };
  lead_null: {
    leads_id: string;
    name: string;
    known_ohm: number;
    reading_ohm: string;
    nulled_at: string;
    removed: boolean;
  };
  put_back: {
    item: string;
    about_id: string;
    off_at: string;
    back_at: string;
    removed: boolean;
  };
  position: {
    about_id: string;
    field: string;
    of_reading: string;
    stood: string;
    removed: boolean;
  };
  come_back: {
    about_entity: "inspection" | "bond" | "board" | "rcd" | "circuit" | "point" | "room" | "check";
    about_id: string;
    field: string;
    place: string;
    what: string;
    asked_by: string;
    answer: string;
    done_at: string;
    became: "limitation" | "observation";
    became_id: string;
    removed: boolean;
  };
  concern: {
    position: number;
    asked_by: "client" | "occupier" | "landlord" | "agent";
    what: string;
    answer: string;
    observation_id: string;
    removed: boolean;
  };
  set_aside: {
    about_entity: "circuit" | "point" | "board" | "room";
    about_id: string;
    state: "left disconnected" | "out of scope";
    agreed_with: string;
    until: string;
    why: string;
    since: string;
    removed: boolean;
  };
  dating: {
    about_entity: "inspection" | "board" | "circuit";
    about_id: string;
    part: string;
    from_year: number;
    to_year: number;
    known_by: "colours of its cores" | "type of board" | "labels" | "date on an alarm" | "accessories" | "papers" | "what people say";
    says: string;
    removed: boolean;
  };
  operator_call: {
    fault: "earth" | "cut-out" | "seals" | "damage" | "polarity" | "looped" | "fuse";
    what: string;
    called_at: string;
    spoke_with: string;
    reference: string;
    promised_by: string;
    asked_for: string;
    outcome: string;
    closed_at: string;
    holds: boolean;
    removed: boolean;
  };
  wanted_load: {
    what: "lighting" | "cooking appliance" | "heating and power not elsewhere" | "instantaneous water heater or shower" | "water heater with storage" | "storage or floor heating" | "vehicle charge point" | "heat pump" | "sockets on standard circuits" | "other sockets and fixed outlets";
    current_a: number;
    sheds: boolean;
    removed: boolean;
  };
  label: {
    about_entity: "inspection" | "board";
    about_id: string;
    kind: "earth" | "bond" | "dual-supply" | "next-inspection" | "rcd-test" | "circuits" | "main-switch" | "two-colours" | "no-cpc" | "surge" | "warning";
    state: "found" | "missing" | "out of date" | "removed" | "fitted";
    interval: "six-monthly" | "quarterly" | "monthly" | "other";
    says: string;
    removed: boolean;
  };
  offer_line: {
    alternative: number;
    remedy: "blank" | "tails" | "earth" | "electrode" | "bond" | "local-bond" | "earth-label" | "labels" | "trace" | "terminals" | "main-switch" | "device" | "lowered" | "spd" | "rcd" | "fault-search" | "rcbo" | "main-rcd" | "board" | "joint" | "accessory" | "bathroom" | "ring-sorted" | "branch" | "cable" | "cable-fixed" | "alarm" | "electrode-out" | "vehicle" | "make-dead" | "own";
    about_entity: "inspection" | "bond" | "board" | "rcd" | "circuit" | "point" | "room" | "check";
    about_id: string;
    observation_id: string;
    words: string;
    price: number;
    removed: boolean;
  };
  repair: {
    observation_id: string;
    about_entity: "inspection" | "bond" | "board" | "rcd" | "circuit" | "point" | "room";
    about_id: string;
    place: string;
    found: string;
    work: "joint" | "polarity" | "accessory" | "lowered" | "device" | "rcd" | "cable" | "bond" | "spd" | "cover" | "label" | "other";
    done: string;
    parts: string;
    as_left: string;
    begun_at: string;
    done_at: string;
    by: string;
    departures: string;
    existing: string;
    certificate: string;
    certified_at: string;
    removed: boolean;
  };
  as_found: {
    about_entity: "inspection" | "bond" | "board" | "rcd" | "circuit" | "point" | "room";
    about_id: string;
    field: string;
    value: string;
    removed: boolean;
  };
  photo: {
    about_entity: "inspection" | "bond" | "board" | "rcd" | "circuit" | "point" | "room" | "observation" | "come_back" | "repair";
    about_id: string;
    shows: "circuit chart" | "defect" | "overview" | "as left";
    caption: string;
    marks: Record<string, unknown>[];
    print_size: "small" | "large" | "not";
    sha256: string;
    taken_at: string;
    removed: boolean;
  };
}
/** The same of what the register keeps. */
export interface RegisterFields {
  client: {
    name: string;
    address: string;
    contact: string;
    phone: string;
    email: string;
    notes: string;
    removed: boolean;
  };
  property: {
    address: string;
    nation: "England" | "Scotland" | "Wales" | "Northern Ireland" | "Ireland";
    tenure: "let dwelling" | "owner-occupied dwelling" | "shared house let by the room" | "holiday let";
    built_year: number;
    rewired_year: number;
    occupier_name: string;
    occupier_phone: string;
    occupier_email: string;
    must_stay_on: string;
    access: string;
    key_place: string;
    key_holder_id: string;
    parking: string;
    reference: string;
    inspected_on: string;
    due_on: string;
    latitude: number;
    longitude: number;
    notes: string;
    removed: boolean;
  };
  installation: {
    name: string;
    supplied_from: string;
    earthing: "TN-C-S" | "TN-S" | "TT";
    notes: string;
    removed: boolean;
  };
  access_window: {
    access: "possible" | "not possible";
    weekday: "Monday" | "Tuesday" | "Wednesday" | "Thursday" | "Friday" | "Saturday" | "Sunday";
    from_time: "06:00" | "06:30" | "07:00" | "07:30" | "08:00" | "08:30" | "09:00" | "09:30" | "10:00" | "10:30" | "11:00" | "11:30" | "12:00" | "12:30" | "13:00" | "13:30" | "14:00" | "14:30" | "15:00" | "15:30" | "16:00" | "16:30" | "17:00" | "17:30" | "18:00" | "18:30" | "19:00" | "19:30" | "20:00" | "20:30" | "21:00" | "21:30" | "22:00";
    until_time: "06:00" | "06:30" | "07:00" | "07:30" | "08:00" | "08:30" | "09:00" | "09:30" | "10:00" | "10:30" | "11:00" | "11:30" | "12:00" | "12:30" | "13:00" | "13:30" | "14:00" | "14:30" | "15:00" | "15:30" | "16:00" | "16:30" | "17:00" | "17:30" | "18:00" | "18:30" | "19:00" | "19:30" | "20:00" | "20:30" | "21:00" | "21:30" | "22:00";
    first_day: string;
    last_day: string;
    removed: boolean;
  };
  job: {
    number: string;
    state: "asked" | "confirmed" | "booked" | "on hold" | "done";
    purpose: "periodic" | "change of occupier" | "purchase" | "before an alteration" | "after damage";
    extent: string;
    leave_out: string;
    leave_out_reason: string;
    agreed_with: string;
    agreed_on: string;
    booked_on: string;
    booked_at: string;
    booked_with: string;
    last_day: string;
    visit_min: number;
    spent_min: number;
    power_off: string;
    boards: number;
    rings: number;
    radials: number;
    points_opened: number;
    points_tested: number;
    travel_km: number;
    return_visits: number;
    work: "inspection" | "repairs";
    inspection_id: string;
    offer_id: string;
    alternative: number;
    offered_price: number;
    offered_min: number;
    confirmation_sent: string;
    notes: string;
    removed: boolean;
  };
  instrument: {
    name: string;
    kind: "multifunction" | "low ohms" | "insulation" | "loop" | "RCD" | "clamp" | "voltage indicator" | "proving unit";
    serial: string;
    bought_on: string;
    calibrated_on: string;
    calibration_due: string;
    certificate: string;
    continuity_percent: number;
    continuity_digits: number;
    insulation_percent: number;
    insulation_digits: number;
    loop_percent: number;
    loop_digits: number;
    continuity_top_ohm: number;
    insulation_top_mohm: number;
    loop_top_ohm: number;
    trip_percent: number;
    trip_digits: number;
    retired: boolean;
    removed: boolean;
  };
  leads: {
    name: string;
    known_ohm: number;
    retired: boolean;
    removed: boolean;
  };
  working_week: {
    name: string;
    person_id: string;
    by_request: boolean;
    latitude: number;
    longitude: number;
    starts_at: "06:00" | "06:30" | "07:00" | "07:30" | "08:00" | "08:30" | "09:00" | "09:30" | "10:00" | "10:30" | "11:00" | "11:30" | "12:00" | "12:30" | "13:00" | "13:30" | "14:00" | "14:30" | "15:00" | "15:30" | "16:00" | "16:30" | "17:00" | "17:30" | "18:00" | "18:30" | "19:00" | "19:30" | "20:00" | "20:30" | "21:00" | "21:30" | "22:00";
    ends_at: "06:00" | "06:30" | "07:00" | "07:30" | "08:00" | "08:30" | "09:00" | "09:30" | "10:00" | "10:30" | "11:00" | "11:30" | "12:00" | "12:30" | "13:00" | "13:30" | "14:00" | "14:30" | "15:00" | "15:30" | "16:00" | "16:30" | "17:00" | "17:30" | "18:00" | "18:30" | "19:00" | "19:30" | "20:00" | "20:30" | "21:00" | "21:30" | "22:00";
    most_visits: number;
    most_minutes: number;
    not_monday: boolean;
    not_tuesday: boolean;
    not_wednesday: boolean;
    not_thursday: boolean;
    not_friday: boolean;
    on_saturday: boolean;
    removed: boolean;
  };
  day_off: {
    first_day: string;
    last_day: string;
    reason: string;
    removed: boolean;
  };
  key_holder: {
    name: string;
    address: string;
    phone: string;
    latitude: number;
    longitude: number;
    opens_at: "06:00" | "06:30" | "07:00" | "07:30" | "08:00" | "08:30" | "09:00" | "09:30" | "10:00" | "10:30" | "11:00" | "11:30" | "12:00" | "12:30" | "13:00" | "13:30" | "14:00" | "14:30" | "15:00" | "15:30" | "16:00" | "16:30" | "17:00" | "17:30" | "18:00" | "18:30" | "19:00" | "19:30" | "20:00" | "20:30" | "21:00" | "21:30" | "22:00";
    closes_at: "06:00" | "06:30" | "07:00" | "07:30" | "08:00" | "08:30" | "09:00" | "09:30" | "10:00" | "10:30" | "11:00" | "11:30" | "12:00" | "12:30" | "13:00" | "13:30" | "14:00" | "14:30" | "15:00" | "15:30" | "16:00" | "16:30" | "17:00" | "17:30" | "18:00" | "18:30" | "19:00" | "19:30" | "20:00" | "20:30" | "21:00" | "21:30" | "22:00";
    removed: boolean;
  };
}
export type Kind = keyof Fields;
export type FieldOf<K extends Kind> = keyof Fields[K] & string;
/** What an entity can hang on, the usual first: the field that makes it is named after that. */
export const PARENTS = {
  "inspection": [
    "firm"
  ],
  "bond": [
    "inspection"
  ],
  "board": [
    "inspection"
  ],
  "rcd": [
    "board"
  ],
  "circuit": [
    "board"
  ],
  "room": [
    "inspection"
  ],
  "point": [
    "circuit",
    "inspection"
  ],
  "earlier": [
    "circuit",
    "point"
  ],
  "observation": [
    "inspection"
  ],
  "opinion": [
    "observation"
  ],
  "declined": [
    "inspection"
  ],
  "limitation": [
    "inspection"
  ],
  "overruling": [
    "inspection"
  ],
  "isolation": [
    "board"
  ],
  "check": [
    "board",
    "room",
    "inspection"
  ],
  "attendance": [
    "inspection"
  ],
  "instrument_used": [
    "inspection"
  ],
  "lead_null": [
    "inspection"
  ],
  "put_back": [
    "inspection"
  ],
  "position": [
    "inspection"
  ],
  "come_back": [
    "inspection"
  ],
  "concern": [
    "inspection"
  ],
  "set_aside": [
    "inspection"
  ],
  "dating": [
    "inspection"
  ],
  "operator_call": [
    "inspection"
  ],
  "wanted_load": [
    "inspection"
  ],
  "label": [
    "inspection"
  ],
  "offer_line": [
    "inspection"
  ],
  "repair": [
    "inspection"
  ],
  "as_found": [
    "repair"
  ],
  "photo": [
    "inspection"
  ]
} as const satisfies Record<Kind, readonly string[]>;
export type ParentOf<K extends Kind> = (typeof PARENTS)[K][number];
/** How marks on a photo are laid out, in thousandths of its longer side (core/inspection/photo_marks.py). */
export const MARKED = {"head": 46, "head_angle": 0.5, "disc": 34, "rim": 6, "number": 44, "number_down": 15, "under": 16, "over": 9} as const;
/** Fields of the inspection by the part of the intake that they belong to, the one to begin with first. */
export const INTAKE = {
  "supply": [
    "earthing",
    "phases",
    "leakage_ma",
    "pscc_ka",
    "pefc_ka",
    "supply_voltage_v",
    "supply_polarity"
  ],
  "ze": [
    "ze_ohm",
    "ze_parallel_removed"
  ],
  "head": [
    "service_fuse_standard",
    "service_fuse_a",
    "overhead_supply"
  ],
  "tails": [
    "tails_mm2",
    "tails_length_m",
    "neutral_mm2"
  ],
  "meter": [
    "meter_number",
    "meter_seals"
  ],
  "isolator": [
    "isolator",
    "isolator_a"
  ],
  "switch-fuse": [
    "tails_protected",
    "switch_fuse_a"
  ],
  "earth": [
    "earthing_conductor_mm2",
    "earth_by",
    "electrode"
  ]
} as const;
export const STAGES = ["brief", "intake", "walk", "isolation", "boards", "dead", "live", "observations", "report"] as const;
export const FLOORS = ["cellar", "ground", "first", "second", "third or higher", "roof space", "outside"] as const;
export const CHECK_STATES = ["good", "not good", "LIM", "N/A"] as const;
