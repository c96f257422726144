#include "app/library.h"

#include "app/regular_file.h"
#include "app/storage.h"
#include "app/words.h"
#include "core/files/project.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QStandardPaths>
#include <algorithm>

namespace fulmox::app {

MotorLibrary::MotorLibrary(QObject* parent) : QObject(parent) {}

QString MotorLibrary::file() const {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + QStringLiteral("/motors.json");
}

void MotorLibrary::reload() {
    const QFileInfo info(file());
    const QDateTime now = info.exists() ? info.lastModified() : QDateTime();
    if (looked_ && now == seen_) return;
    looked_ = true;
    seen_ = now;
    motors_.clear();
    problem_.clear();
    reading_.drop();
    const auto take = [this](Read r) {
        motors_ = std::move(r.motors);
        problem_ = std::move(r.problem);
        emit changed();
    };
    if (!info.exists()) return take({});
    if (info.size() <= read_at_once) return take(read(file()));
    problem_ = tr("%1: being read…").arg(file()); // so that nothing writes over it
    reading_.run(
        this, [file = file()](const StopToken&) { return read(file); }, take);
    if (reading_.running()) emit changed();
}

MotorLibrary::Read MotorLibrary::read(const QString& file) {
    const auto bytes = read_regular(file);
    if (!bytes) return {{}, bytes.error()};
    // a sheet of one's own may be unfinished; what is wrong, though, writing it again might lose
    auto sheets = read_sheets(std::string_view(bytes->constData(), static_cast<std::size_t>(bytes->size())));
    if (!sheets) return {{}, tr("%1: %2").arg(file, qs(to_text(sheets.error())))};
    Read out{std::move(sheets->motors), {}};
    for (const Problem& p : sheets->problems)
        if (p.severity == Severity::error && out.problem.isEmpty())
            out.problem = tr("%1: %2").arg(file, qs(to_text(p)));
    return out;
}

QString MotorLibrary::write(std::vector<Motor> motors) {
    if (!QDir().mkpath(QFileInfo(file()).path())) return tr("%1 cannot be made").arg(QFileInfo(file()).path());
    const QString wrong = write_atomically(file(), QByteArray::fromStdString(write_motors("My motors", motors)));
    if (!wrong.isEmpty()) return wrong;
    looked_ = false;
    reload();
    return {};
}

QString MotorLibrary::add(Motor motor) {
    looked_ = false; // another window may have written meanwhile
    reload();
    if (!problem_.isEmpty()) return problem_;
    if (motor.name.empty()) motor.name = "Typed by hand";
    if (std::find(motors_.begin(), motors_.end(), motor) != motors_.end()) return {};
    const std::string name = motor.name;
    const auto taken = [&] {
        return std::any_of(motors_.begin(), motors_.end(), [&](const Motor& m) { return m.name == motor.name; });
    };
    for (int n = 2; taken(); ++n) motor.name = name + " (" + std::to_string(n) + ")";
    std::vector<Motor> all = motors_;
    all.push_back(std::move(motor));
    return write(std::move(all));
}

QString MotorLibrary::remove(const std::string& name) {
    looked_ = false;
    reload();
    if (!problem_.isEmpty()) return problem_;
    std::vector<Motor> all = motors_;
    std::erase_if(all, [&](const Motor& m) { return m.name == name; });
    return write(std::move(all));
}

MotorLibrary& motor_library() {
    static auto* once = new MotorLibrary(qApp);
    once->reload();
    return *once;
}

} // namespace fulmox::app
