#include "core/model/supply.h"

#include "core/model/visitor.h"

namespace fulmox {

void Supply::describe(FieldVisitor& v) {
    v.text(name, {"name", "Supply", "What it is."});
    v.choice(kind, {"type", "Type", kinds, "A regulated one keeps its voltage, the others sag under load.", true, true,
                       0, need::record});
    const auto field = [](const char* key, const char* label, const char* unit, double most, const char* help,
                           const IfEmpty& if_empty, const char* symbol) {
        return optional_quantity(key, label, unit, most, help, if_empty, symbol, need::record);
    };
    v.quantity(input_voltage,
        field("input_voltage", "Mains voltage", "V", 1000, "RMS.", left_empty::unknown("not known"), "U_1"));
    QuantitySpec s = field("phases", "Mains phases", "1", 3, "1 or 3.", left_empty::unknown("not known"), "");
    s.range = {1, 3};
    v.quantity(phases, s);
    s = field("voltage", "Output voltage", "V", 2000, "DC, at its rating.", IfEmpty{}, "U_2");
    s.required = true;
    v.quantity(voltage, s);
    s = field("tolerance", "Output tolerance, ±", "%", 50, "Of the output, trimming included.",
        left_empty::unknown("not known"), "δ_U");
    s.range.open_min = false;
    v.quantity(tolerance, s);
    s = field("droop", "Droop", "%", 50, "How far the output falls from idle to its rating.",
        left_empty::unknown("not known"), "δ_d");
    s.range.open_min = false;
    v.quantity(droop, s);
    v.quantity(current,
        field("current", "Output current", "A", 1e5, "DC, continuous.", left_empty::unknown("not known"), "I_2"));
    v.quantity(peak_current, field("peak_current", "Peak current", "A", 1e5, "DC, for a moment.",
                                 left_empty::stands_in("as continuous"), "I_2p"));
    s = field(
        "peak_time", "Peak for", "s", 1e4, "How long it gives its peak.", left_empty::unknown("not known"), "t_p");
    s.applies = peak_current.given();
    v.quantity(peak_time, s);
    v.quantity(power,
        field("power", "Output power", "W", 1e7, "Continuous.", left_empty::stands_in("voltage times current"), "P_2"));
    v.quantity(efficiency,
        field("efficiency", "Efficiency", "%", 100, "At its rating.", left_empty::unknown("not known"), "η"));
    v.quantity(capacitance, field("capacitance", "Output capacitance", "µF", 1e9, "What takes up returned energy.",
                                left_empty::unknown("not known"), "C"));
    v.quantity(
        trip_voltage, field("trip_voltage", "Overvoltage trip", "V", 2000, "At its output: braking axes push it up.",
                          left_empty::unknown("not known"), "U_trip"));
    v.quantity(inrush_current, field("inrush_current", "Inrush current", "A", 1e5, "At its input, cold.",
                                   left_empty::unknown("not known"), "I_i"));
    v.flag(takes_back, {"takes_back", "Returns energy to the mains", "Else it must be stored, used up or burnt."});
    describe_trade(v, mass, price, provenance);
}

} // namespace fulmox
