// Writes small projects for the fuzz targets: one for every mechanism, kind of segment, of motor and shape of body, and
// the same kept as unsaved work.   make_seeds SOURCE_FOLDER PROJECTS RECOVERY
#include "core/files/project.h"
#include "core/files/recovery.h"
#include "tests/mechanism_texts.h"

#include <fstream>
#include <iostream>
#include <sstream>

using namespace fulmox;

namespace {

std::string content(const std::string& file) {
    std::ifstream in(file, std::ios::binary);
    std::stringstream s;
    s << in.rdbuf();
    if (!in) throw std::runtime_error(file + " cannot be read");
    return s.str();
}

void write(const std::string& file, const std::string& text) {
    std::ofstream out(file, std::ios::binary);
    out << text;
    out.close();
    if (!out) throw std::runtime_error(file + " cannot be written");
}

// Gives every quantity at or below a place that is needed and empty some number.
void fill(Machine& m, const std::string& place) {
    for (FieldRef& f : walk(m))
        if (f.path.starts_with(place + "/") && f.type == FieldRef::Type::quantity && f.active &&
            f.quantity_spec.required && !f.quantity->given())
            for (const char* number : {"1", "0.1", "10"})
                if (!assign(f, number)) break;
}

} // namespace

int main(int count, char** given) {
    if (count != 4) return 2;
    const std::string projects = given[2], recovery = given[3];
    auto demo = read_project(content(std::string(given[1]) + "/data/projects/tile-glazing-cell.fulmox"));
    if (!demo) return 1;
    Machine base = demo->machine;
    base.axes.resize(1);
    base.materials.clear();
    int written = 0;
    const auto keep = [&](const std::string& name, const Machine& m) {
        const std::string text = write_project(m);
        write(projects + "/" + name + ".fulmox", text);
        write(recovery + "/" + name + ".json", write_recovery({"/tmp/" + name + ".fulmox", "00ff", text}));
        ++written;
    };
    const auto variants = [&](const Machine& m, const std::string& place, const std::string& name) {
        Machine first = m;
        const auto kinds = find_field(first, place)->variant.kinds();
        for (std::size_t i = 0; i < kinds.size(); ++i) {
            Machine one = m;
            find_field(one, place)->choose(static_cast<int>(i));
            fill(one, place);
            keep(name + "-" + kinds[i].key, one);
        }
    };
    try {
        Machine start = base;
        const auto mechanism = find_field(start, "/axes/0/mechanism");
        for (const Option& kind : mechanism->variant.kinds())
            keep(std::string("mechanism-") + kind.key, testing::turned_into(base, kind.key));
        Machine moves = testing::turned_into(base, "belt");
        moves.axes[0].cycle.segments.resize(2);
        variants(moves, "/axes/0/cycle/segments/1/what", "segment");
        // by their constants, and with a picture of a curve
        Machine driven = base;
        driven.axes[0].motor.peak.clear();
        driven.axes[0].motor.continuous.clear();
        variants(driven, "/axes/0/motor/electric", "motor");
        Machine pictured = base;
        pictured.axes[0].motor.pictures = demo->machine.axes.at(6).motor.pictures;
        pictured.axes[0].motor.pull_in = demo->machine.axes.at(6).motor.pull_in;
        keep("picture", pictured);
        moves.axes[0].bodies.resize(1);
        variants(moves, "/axes/0/bodies/0/shape", "body");
    } catch (const std::exception& e) {
        std::cerr << e.what() << '\n';
        return 1;
    }
    std::cout << written << " seeds\n";
    return written > 30 ? 0 : 1;
}
