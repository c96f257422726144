#include "core/quantity/unit.h"

#include "core/quantity/spelling.h"

#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <unordered_map>

namespace fulmox {

namespace {

using std::numbers::pi;
constexpr double gn = 9.80665; // m/s², CGPM 1901: defines the gravitational units of force
constexpr double in = 0.0254;  // m, exact
constexpr double ft = 12 * in;
constexpr double lb = 0.45359237; // kg, exact
constexpr double oz = lb / 16;
constexpr double lbf = lb * gn;
constexpr double ozf = oz * gn;
constexpr double kgf = gn;
constexpr double rev = 2 * pi;
constexpr double deg = pi / 180;
constexpr double rpm = rev / 60;

using enum Kind;

constexpr std::array table{
    Unit{"1", number, 1, "1", ""},
    Unit{"%", number, 0.01, "percent", "percent"},
    Unit{"‰", number, 0.001, "1|1000", "permille"},
    Unit{"ppm", number, 1e-6, "1e-6", ""},
    Unit{"dozen", number, 12, "dozen", ""},

    Unit{"m", length, 1, "m", "metre meter"},
    Unit{"mm", length, 1e-3, "mm", "millimetre"},
    Unit{"cm", length, 1e-2, "cm", ""},
    Unit{"dm", length, 0.1, "dm", ""},
    Unit{"µm", length, 1e-6, "um", "um micron microns"},
    Unit{"nm", length, 1e-9, "nm", ""},
    Unit{"km", length, 1e3, "km", ""},
    Unit{"in", length, in, "in", "inch inches"},
    Unit{"ft", length, ft, "ft", "foot feet"},
    Unit{"yd", length, 3 * ft, "yd", "yard"},
    Unit{"mil", length, in / 1000, "mil", "thou mils"},

    Unit{"rad", angle, 1, "radian", "radian radians"},
    Unit{"deg", angle, deg, "degree", "° degree degrees"},
    Unit{"rev", angle, rev, "turn", "turn turns revolution revolutions revs"},
    Unit{"arcmin", angle, deg / 60, "arcmin", "arcminute arcminutes"},
    Unit{"arcsec", angle, deg / 3600, "arcsec", "arcsecond arcseconds"},
    Unit{"mrad", angle, 1e-3, "milliradian", ""},
    Unit{"µrad", angle, 1e-6, "microradian", "urad"},
    Unit{"gon", angle, pi / 200, "gon", ""},

    Unit{"kg", mass, 1, "kg", "kilogram kilograms"},
    Unit{"g", mass, 1e-3, "g", "gram grams"},
    Unit{"mg", mass, 1e-6, "mg", ""},
    Unit{"t", mass, 1e3, "tonne", "tonne tonnes"},
    Unit{"lb", mass, lb, "lb", "lbm lbs pound pounds"},
    Unit{"oz", mass, oz, "oz", "ounce ounces"},
    Unit{"slug", mass, lbf / ft, "slug", "slugs"},

    Unit{"s", time, 1, "s", "sec second seconds"},
    Unit{"ms", time, 1e-3, "ms", "msec"},
    Unit{"µs", time, 1e-6, "us", "us usec"},
    Unit{"min", time, 60, "min", "minute minutes"},
    Unit{"h", time, 3600, "hour", "hr hour hours"},
    Unit{"d", time, 86400, "day", "day days"},
    Unit{"a", time, 365.25 * 86400, "julianyear", "year years"},

    Unit{"Hz", frequency, 1, "Hz", "hertz 1/s s^-1 /s"},
    Unit{"kHz", frequency, 1e3, "kHz", ""},
    Unit{"MHz", frequency, 1e6, "MHz", ""},
    Unit{"moves/h", frequency, 1.0 / 3600, "1/hour", "1/h /h"},
    Unit{"cycles/h", frequency, 1.0 / 3600, "1/hour", ""},
    Unit{"moves/min", frequency, 1.0 / 60, "1/min", "/min"},

    Unit{"m/s", speed, 1, "m/s", "mps"},
    Unit{"mm/s", speed, 1e-3, "mm/s", ""},
    Unit{"cm/s", speed, 1e-2, "cm/s", ""},
    Unit{"m/min", speed, 1.0 / 60, "m/min", ""},
    Unit{"mm/min", speed, 1e-3 / 60, "mm/min", ""},
    Unit{"km/h", speed, 1 / 3.6, "km/hour", "kph"},
    Unit{"µm/s", speed, 1e-6, "um/s", "um/s"},
    Unit{"in/s", speed, in, "in/s", "ips"},
    Unit{"in/min", speed, in / 60, "in/min", "ipm"},
    Unit{"ft/s", speed, ft, "ft/s", "fps"},
    Unit{"ft/min", speed, ft / 60, "ft/min", "fpm"},
    Unit{"km/year", speed, 1e3 / (365.25 * 86400), "km/julianyear", ""},

    Unit{"rad/s", angular_speed, 1, "radian/s", ""},
    Unit{"rpm", angular_speed, rpm, "rpm", "r/min rev/min min^-1 min⁻¹ 1/min U/min"},
    Unit{"rev/s", angular_speed, rev, "turn/s", "rps r/s"},
    Unit{"deg/s", angular_speed, deg, "degree/s", "°/s"},
    Unit{"deg/min", angular_speed, deg / 60, "degree/min", "°/min"},
    Unit{"krpm", angular_speed, 1000 * rpm, "1000 rpm", ""},
    Unit{"rev/h", angular_speed, rev / 3600, "turn/hour", "rph"},

    Unit{"Mrev/year", angular_speed, 1e6 * rev / (365.25 * 86400), "1e6 turn/julianyear", ""},

    Unit{"m/s²", acceleration, 1, "m/s^2", ""},
    Unit{"mm/s²", acceleration, 1e-3, "mm/s^2", ""},
    Unit{"cm/s²", acceleration, 1e-2, "cm/s^2", ""},
    Unit{"in/s²", acceleration, in, "in/s^2", ""},
    Unit{"ft/s²", acceleration, ft, "ft/s^2", ""},
    Unit{"gn", acceleration, gn, "gravity", "g_n gee"},

    Unit{"rad/s²", angular_acceleration, 1, "radian/s^2", ""},
    Unit{"rev/s²", angular_acceleration, rev, "turn/s^2", ""},
    Unit{"deg/s²", angular_acceleration, deg, "degree/s^2", "°/s^2"},
    Unit{"rpm/s", angular_acceleration, rpm, "rpm/s", ""},
    Unit{"krpm/s", angular_acceleration, 1000 * rpm, "1000 rpm/s", ""},

    Unit{"m/s³", jerk, 1, "m/s^3", ""},
    Unit{"mm/s³", jerk, 1e-3, "mm/s^3", ""},
    Unit{"in/s³", jerk, in, "in/s^3", ""},
    Unit{"gn/s", jerk, gn, "gravity/s", ""},

    Unit{"rad/s³", angular_jerk, 1, "radian/s^3", ""},
    Unit{"rev/s³", angular_jerk, rev, "turn/s^3", ""},
    Unit{"deg/s³", angular_jerk, deg, "degree/s^3", "°/s^3"},

    Unit{"N", force, 1, "N", "newton newtons"},
    Unit{"kN", force, 1e3, "kN", ""},
    Unit{"mN", force, 1e-3, "mN", ""},
    Unit{"daN", force, 10, "daN", ""},
    Unit{"lbf", force, lbf, "lbf", "", 0, "pound-force"},
    Unit{"ozf", force, ozf, "oz force", "", 0, "ounce-force"},
    Unit{"kgf", force, kgf, "kgf", "kp", 0, "kilogram-force"},
    Unit{"gf", force, kgf / 1000, "gram force", "pond", 0, "gram-force"},
    Unit{"kip", force, 1000 * lbf, "kip", "klbf"},

    Unit{"N·m", torque, 1, "N m", "Nm"},
    Unit{"N·mm", torque, 1e-3, "N mm", "Nmm"},
    Unit{"N·cm", torque, 1e-2, "N cm", "Ncm"},
    Unit{"mN·m", torque, 1e-3, "mN m", "mNm"},
    Unit{"kN·m", torque, 1e3, "kN m", "kNm"},
    Unit{"oz·in", torque, ozf* in, "oz force in", "ozf·in ozin in·oz in·ozf", 0, "ounce-force inch"},
    Unit{"lb·in", torque, lbf* in, "lbf in", "lbf·in in·lb in·lbf", 0, "pound-force inch"},
    Unit{"lb·ft", torque, lbf* ft, "lbf ft", "lbf·ft ft·lb ft·lbf", 0, "pound-force foot"},
    Unit{"kg·cm", torque, kgf * 1e-2, "kgf cm", "kgf·cm kgcm kp·cm", 0, "kilogram-force centimetre"},
    Unit{"kg·m", torque, kgf, "kgf m", "kgf·m kp·m", 0, "kilogram-force metre"},
    Unit{"kg·mm", torque, kgf * 1e-3, "kgf mm", "kgf·mm", 0, "kilogram-force millimetre"},
    Unit{"g·cm", torque, kgf * 1e-5, "gram force cm", "gf·cm", 0, "gram-force centimetre"},

    Unit{"kg·m²", inertia, 1, "kg m^2", ""},
    Unit{"kg·cm²", inertia, 1e-4, "kg cm^2", "kgcm²", 0, "kilogram square centimetre"},
    Unit{"kg·mm²", inertia, 1e-6, "kg mm^2", "kgmm²"},
    Unit{"g·cm²", inertia, 1e-7, "g cm^2", "gcm²"},
    Unit{"g·mm²", inertia, 1e-9, "g mm^2", ""},
    Unit{"g·m²", inertia, 1e-3, "g m^2", ""},
    Unit{"lb·in²", inertia, lb* in* in, "lb in^2", "lbm·in² in²·lb", 0, "pound (mass) square inch"},
    Unit{"lb·ft²", inertia, lb* ft* ft, "lb ft^2", "lbm·ft²", 0, "pound (mass) square foot"},
    Unit{"oz·in²", inertia, oz* in* in, "oz in^2", "in²·oz", 0, "ounce (mass) square inch"},
    Unit{"lb·in·s²", inertia, lbf* in, "lbf in s^2", "lbf·in·s² in·lb·s² in·lbf·s²", 0,
        "pound-force inch second squared"},
    Unit{"oz·in·s²", inertia, ozf* in, "oz force in s^2", "ozf·in·s² in·oz·s² in·ozf·s²", 0,
        "ounce-force inch second squared"},
    Unit{"lb·ft·s²", inertia, lbf* ft, "lbf ft s^2", "lbf·ft·s² slug·ft²", 0, "pound-force foot second squared"},
    Unit{"kgf·cm·s²", inertia, kgf * 1e-2, "kgf cm s^2", "kg·cm·s²", 0, "kilogram-force centimetre second squared"},
    Unit{"kgf·m·s²", inertia, kgf, "kgf m s^2", "kg·m·s²", 0, "kilogram-force metre second squared"},

    Unit{"W", power, 1, "W", "watt watts"},
    Unit{"kW", power, 1e3, "kW", ""},
    Unit{"mW", power, 1e-3, "mW", ""},
    Unit{"hp", power, 550 * lbf* ft, "hp", "horsepower", 0, "horsepower, 550 ft·lbf/s"},
    Unit{"PS", power, 75 * kgf, "metrichorsepower", "", 0, "metric horsepower"},
    Unit{"ft·lbf/s", power, lbf* ft, "ft lbf/s", "lbf·ft/s"},
    Unit{"BTU/h", power, 1055.05585262 / 3600, "btu_IT/hour", "Btu/h"},

    Unit{"J", energy, 1, "J", "joule joules W·s"},
    Unit{"kJ", energy, 1e3, "kJ", ""},
    Unit{"mJ", energy, 1e-3, "mJ", ""},
    Unit{"Wh", energy, 3600, "W hour", "W·h"},
    Unit{"kWh", energy, 3.6e6, "kW hour", "kW·h"},
    Unit{"BTU", energy, 1055.05585262, "btu_IT", "Btu"},

    Unit{"V", voltage, 1, "V", "volt volts VDC VAC"},
    Unit{"mV", voltage, 1e-3, "mV", ""},
    Unit{"kV", voltage, 1e3, "kV", ""},

    Unit{"A", current, 1, "A", "amp amps ampere amperes"},
    Unit{"mA", current, 1e-3, "mA", ""},
    Unit{"kA", current, 1e3, "kA", ""},

    Unit{"Ω", resistance, 1, "ohm", "ohm ohms"},
    Unit{"mΩ", resistance, 1e-3, "milliohm", "mohm"},
    Unit{"kΩ", resistance, 1e3, "kiloohm", "kohm"},

    Unit{"H", inductance, 1, "H", "henry"},
    Unit{"mH", inductance, 1e-3, "mH", ""},
    Unit{"µH", inductance, 1e-6, "uH", "uH"},

    Unit{"F", capacitance, 1, "F", "farad"},
    Unit{"mF", capacitance, 1e-3, "mF", ""},
    Unit{"µF", capacitance, 1e-6, "uF", "uF"},

    Unit{"N·m/A", torque_constant, 1, "N m/A", "Nm/A"},
    Unit{"mN·m/A", torque_constant, 1e-3, "mN m/A", "mNm/A"},
    Unit{"N·cm/A", torque_constant, 1e-2, "N cm/A", "Ncm/A"},
    Unit{"oz·in/A", torque_constant, ozf* in, "oz force in/A", "ozf·in/A"},
    Unit{"lb·in/A", torque_constant, lbf* in, "lbf in/A", "lbf·in/A"},
    Unit{"lb·ft/A", torque_constant, lbf* ft, "lbf ft/A", "lbf·ft/A"},
    Unit{"kg·cm/A", torque_constant, kgf * 1e-2, "kgf cm/A", "kgf·cm/A"},

    Unit{"V·s/rad", voltage_constant, 1, "V s/radian", "V/(rad/s)"},
    Unit{"V/krpm", voltage_constant, 1 / (1000 * rpm), "V/(1000 rpm)", "V/1000rpm"},
    Unit{"mV/rpm", voltage_constant, 1e-3 / rpm, "mV/rpm", ""},
    Unit{"V/rpm", voltage_constant, 1 / rpm, "V/rpm", ""},
    Unit{"mV·s/rad", voltage_constant, 1e-3, "mV s/radian", ""},

    Unit{"N/A", force_constant, 1, "N/A", ""},
    Unit{"lbf/A", force_constant, lbf, "lbf/A", "lb/A"},

    Unit{"V·s/m", linear_voltage_constant, 1, "V s/m", "V/(m/s)"},
    Unit{"V·s/in", linear_voltage_constant, 1 / in, "V s/in", "V/(in/s)"},

    // GNU units has no root of a watt: there the square stands
    Unit{"N·m/√W", motor_constant, 1, "(N m)^2/W", "Nm/√W"},
    Unit{"mN·m/√W", motor_constant, 1e-3, "(mN m)^2/W", "mNm/√W"},
    Unit{"oz·in/√W", motor_constant, ozf* in, "(oz force in)^2/W", "ozf·in/√W"},
    Unit{"lb·in/√W", motor_constant, lbf* in, "(lbf in)^2/W", "lbf·in/√W"},
    Unit{"N/√W", linear_motor_constant, 1, "N^2/W", ""},
    Unit{"lbf/√W", linear_motor_constant, lbf, "lbf^2/W", "lb/√W"},

    Unit{"rad/s/V", speed_constant, 1, "radian/s/V", ""},
    Unit{"rpm/V", speed_constant, rpm, "rpm/V", ""},

    Unit{"K", temperature, 1, "K", "kelvin"},
    Unit{"°C", temperature, 1, "tempC", "degC", 273.15},
    Unit{"°F", temperature, 5.0 / 9, "tempF", "degF", 273.15 - 32 * 5.0 / 9},

    Unit{"K", temperature_difference, 1, "K", "kelvin °C degC"},
    Unit{"°F", temperature_difference, 5.0 / 9, "degF", "degF °R"},

    Unit{"N/m", stiffness, 1, "N/m", ""},
    Unit{"N/mm", stiffness, 1e3, "N/mm", ""},
    Unit{"N/µm", stiffness, 1e6, "N/um", "N/um"},
    Unit{"kN/mm", stiffness, 1e6, "kN/mm", ""},
    Unit{"lb/in", stiffness, lbf / in, "lbf/in", "lbf/in"},
    Unit{"lb/ft", stiffness, lbf / ft, "lbf/ft", "lbf/ft"},

    Unit{"N·m/rad", torsional_stiffness, 1, "N m/radian", "Nm/rad"},
    Unit{"N·m/deg", torsional_stiffness, 1 / deg, "N m/degree", "N·m/° Nm/deg Nm/°"},
    Unit{"N·m/arcmin", torsional_stiffness, 60 / deg, "N m/arcmin", "Nm/arcmin"},
    Unit{"kN·m/rad", torsional_stiffness, 1e3, "kN m/radian", "kNm/rad"},
    Unit{"lb·in/rad", torsional_stiffness, lbf* in, "lbf in/radian", "lbf·in/rad"},
    Unit{"lb·in/deg", torsional_stiffness, lbf* in / deg, "lbf in/degree", "lbf·in/deg lb·in/°"},
    Unit{"lb·in/arcmin", torsional_stiffness, lbf* in * 60 / deg, "lbf in/arcmin", "lbf·in/arcmin"},
    Unit{"oz·in/deg", torsional_stiffness, ozf* in / deg, "oz force in/degree", "ozf·in/deg oz·in/°"},

    Unit{"N·s/m", damping, 1, "N s/m", "N/(m/s)"},
    Unit{"N·s/mm", damping, 1e3, "N s/mm", ""},
    Unit{"lb·s/in", damping, lbf / in, "lbf s/in", "lbf·s/in"},

    Unit{"Pa", pressure, 1, "Pa", ""},
    Unit{"kPa", pressure, 1e3, "kPa", ""},
    Unit{"MPa", pressure, 1e6, "MPa", "N/mm²"},
    Unit{"GPa", pressure, 1e9, "GPa", "kN/mm²"},
    Unit{"bar", pressure, 1e5, "bar", ""},
    Unit{"psi", pressure, lbf / (in * in), "psi", "lbf/in²"},
    Unit{"ksi", pressure, 1000 * lbf / (in * in), "1000 psi", ""},
    Unit{"Mpsi", pressure, 1e6 * lbf / (in * in), "1e6 psi", ""},

    Unit{"kg/m³", density, 1, "kg/m^3", ""},
    Unit{"g/cm³", density, 1e3, "g/cm^3", "kg/dm³"},
    Unit{"lb/in³", density, lb / (in * in * in), "lb/in^3", ""},
    Unit{"lb/ft³", density, lb / (ft * ft * ft), "lb/ft^3", ""},
    Unit{"oz/in³", density, oz / (in * in * in), "oz/in^3", ""},

    Unit{"m²", area, 1, "m^2", ""},
    Unit{"mm²", area, 1e-6, "mm^2", ""},
    Unit{"cm²", area, 1e-4, "cm^2", ""},
    Unit{"in²", area, in* in, "in^2", "sqin"},
    Unit{"ft²", area, ft* ft, "ft^2", "sqft"},

    Unit{"m³", volume, 1, "m^3", ""},
    Unit{"mm³", volume, 1e-9, "mm^3", ""},
    Unit{"cm³", volume, 1e-6, "cm^3", ""},
    Unit{"L", volume, 1e-3, "liter", "l litre liter dm³"},
    Unit{"in³", volume, in* in* in, "in^3", ""},

    Unit{"counts", count, 1, "1", "count cts pulses pulse steps step lines increments"},
    Unit{"kcounts", count, 1e3, "1000", "kcts"},

    Unit{"counts/s", count_rate, 1, "1/s", "pulses/s steps/s pps cts/s Hz"},
    Unit{"kcounts/s", count_rate, 1e3, "1000/s", "kHz kpps"},
    Unit{"Mcounts/s", count_rate, 1e6, "1e6/s", "MHz"},

    Unit{"counts/rad", count_per_angle, 1, "1/radian", ""},
    Unit{"counts/rev", count_per_angle, 1 / rev, "1/turn", "steps/rev pulses/rev lines/rev cpr ppr 1/rev"},

    Unit{"m/rad", length_per_angle, 1, "m/radian", ""},
    Unit{"mm/rev", length_per_angle, 1e-3 / rev, "mm/turn", ""},
    Unit{"in/rev", length_per_angle, in / rev, "in/turn", ""},

    Unit{"K/W", thermal_resistance, 1, "K/W", "°C/W"},
    Unit{"°F/W", thermal_resistance, 5.0 / 9, "degF/W", ""},

    Unit{"J/K", heat_capacity, 1, "J/K", "W·s/K J/°C"},

    Unit{"C", charge, 1, "C", "A·s coulomb"},
    Unit{"Ah", charge, 3600, "A hour", "A·h"},
    Unit{"mAh", charge, 3.6, "mA hour", "mA·h"},

    Unit{"A²·s", current_squared_time, 1, "A^2 s", "A²s"},
};

using Index = std::multimap<std::string, const Unit*, std::less<>>;

// Built once; the table never changes, so callers see a pure function.
const Index& index() {
    static const Index built = [] {
        Index out;
        for (const Unit& u : table) {
            out.emplace(spelling::normalise_unit(u.symbol), &u);
            std::string_view rest = u.aliases;
            while (!rest.empty()) {
                const std::size_t end = rest.find(' ');
                out.emplace(spelling::normalise_unit(rest.substr(0, end)), &u);
                rest = end == std::string_view::npos ? std::string_view{} : rest.substr(end + 1);
            }
        }
        return out;
    }();
    return built;
}

} // namespace

std::span<const Unit> units() { return table; }

const Unit* find_unit(std::string_view name) {
    const auto it = index().find(spelling::normalise_unit(name));
    // equal keys keep table order, so the first is the everyday meaning
    const auto first = index().lower_bound(spelling::normalise_unit(name));
    return it == index().end() ? nullptr : first->second;
}

const Unit* find_unit(std::string_view name, Kind wanted) {
    // symbols as the table has them need no normalising: descriptions of fields name nothing else
    static const auto symbols = [] {
        std::unordered_multimap<std::string_view, const Unit*> out;
        for (const Unit& u : table) out.emplace(u.symbol, &u);
        return out;
    }();
    const auto [first, last] = symbols.equal_range(name);
    for (auto it = first; it != last; ++it)
        if (it->second->kind == wanted) return it->second;
    const auto [from, to] = index().equal_range(spelling::normalise_unit(name));
    for (auto it = from; it != to; ++it)
        if (it->second->kind == wanted) return it->second;
    return from == to ? nullptr : from->second;
}

std::vector<const Unit*> units_of(Kind kind) {
    std::vector<const Unit*> out;
    for (const Unit& u : table)
        if (u.kind == kind) out.push_back(&u);
    return out;
}

const Unit& si_unit(Kind kind) { return *find_unit(info(kind).si_unit, kind); }

const Unit& display_unit(Kind kind, UnitSystem system, double si) {
    const bool turns = kind == angle && std::abs(si) >= 10 * rev;
    return turns ? *find_unit("rev", angle) : display_unit(kind, system);
}

const Unit& display_unit(Kind kind, UnitSystem system) {
    struct Choice {
        Kind kind;
        const char* si;
        const char* inch_pound;
        const char* mixed;
    };
    static constexpr std::array choices{
        Choice{length, "mm", "in", "mm"},
        Choice{angle, "deg", "deg", "deg"},
        Choice{mass, "kg", "lb", "kg"},
        Choice{speed, "mm/s", "in/s", "mm/s"},
        Choice{angular_speed, "rpm", "rpm", "rpm"},
        Choice{acceleration, "m/s²", "in/s²", "m/s²"},
        Choice{force, "N", "lbf", "N"},
        Choice{torque, "N·m", "lb·in", "lb·in"},
        Choice{inertia, "kg·cm²", "lb·in²", "lb·in²"},
        Choice{energy, "J", "J", "J"},
        Choice{voltage_constant, "V/krpm", "V/krpm", "V/krpm"},
        Choice{torque_constant, "N·m/A", "lb·in/A", "lb·in/A"},
        Choice{speed_constant, "rpm/V", "rpm/V", "rpm/V"},
        Choice{temperature, "°C", "°F", "°C"},
        Choice{temperature_difference, "K", "°F", "K"},
        Choice{stiffness, "N/µm", "lb/in", "N/µm"},
        Choice{torsional_stiffness, "N·m/rad", "lb·in/rad", "N·m/rad"},
        Choice{damping, "N·s/m", "lb·s/in", "N·s/m"},
        Choice{pressure, "GPa", "Mpsi", "GPa"},
        Choice{density, "kg/m³", "lb/in³", "kg/m³"},
        Choice{inductance, "mH", "mH", "mH"},
        Choice{capacitance, "µF", "µF", "µF"},
        Choice{frequency, "Hz", "Hz", "Hz"},
        Choice{jerk, "m/s³", "in/s³", "m/s³"},
    };
    for (const Choice& c : choices) {
        if (c.kind != kind) continue;
        const char* symbol = system == UnitSystem::si           ? c.si
                             : system == UnitSystem::inch_pound ? c.inch_pound
                                                                : c.mixed;
        return *find_unit(symbol, kind);
    }
    return si_unit(kind);
}

std::string some_units(Kind kind) {
    std::string out;
    for (const Unit* u : units_of(kind)) {
        if (!out.empty()) out += ", ";
        out += u->symbol;
    }
    return out;
}

} // namespace fulmox
