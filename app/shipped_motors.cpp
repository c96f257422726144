#include "app/shipped_motors.h"

#include "app/library.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/files/project.h"
#include "core/model/walk.h"

#include <QFile>
#include <algorithm>
#include <map>

namespace fulmox::app {

namespace {

const MotorCatalogue& shipped() {
    static const MotorCatalogue once = [] {
        need_resources();
        QFile file(QStringLiteral(":/catalogue/motors.json"));
        if (!file.open(QIODevice::ReadOnly)) return MotorCatalogue{};
        const QByteArray bytes = file.readAll();
        auto read = read_motors(std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
        return read ? std::move(*read) : MotorCatalogue{};
    }();
    return once;
}

} // namespace

const std::vector<Motor>& shipped_motors() { return shipped().motors; }
QString shipped_catalogue_name() { return qs(shipped().name); }

bool as_in_catalogue(const Motor& motor, const std::string& field, const std::string& text) {
    static std::map<std::string, std::map<std::string, std::string>>
        texts; // by motor and field; asked for at every key
    if (motor.name.empty()) return false;
    const auto [known, added] = texts.try_emplace(motor.name);
    if (added)
        for (const Motor& m : shipped_motors())
            if (m.name == motor.name) {
                Motor copy = m;
                for (const FieldRef& f : walk(copy))
                    if (f.quantity) known->second[f.path] = f.quantity->text;
            }
    const auto it = known->second.find(field);
    return it != known->second.end() && !text.empty() && it->second == text;
}

void keep_motor(Machine& machine, const Motor& motor) {
    if (motor.empty()) return;
    const auto stands_in = [&](const auto& list) { return std::find(list.begin(), list.end(), motor) != list.end(); };
    Motor kept = motor;
    if (kept.name.empty()) kept.name = "Typed by hand";
    if (stands_in(shipped_motors()) || stands_in(motor_library().motors()) || stands_in(machine.motors)) return;
    if (std::find(machine.motors.begin(), machine.motors.end(), kept) == machine.motors.end())
        machine.motors.push_back(std::move(kept));
}

} // namespace fulmox::app
