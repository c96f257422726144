#include "app/storage.h"

#include "app/theme.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSaveFile>
#include <QSettings>
#include <QStandardPaths>
#include <QUuid>
#include <unistd.h>

namespace fulmox::app {

namespace {

QString tr(const char* text) { return QCoreApplication::translate("Storage", text); }

QString write_atomically(const QString& file, const QByteArray& bytes) {
    QSaveFile out(file);
    if (!out.open(QIODevice::WriteOnly))
        return tr("%1 cannot be written: %2. Choose another folder, or free its write protection; the work is still "
                  "open here.")
            .arg(file, out.errorString());
    // commit() alone takes a file that was cut short by a full disk for a good one
    const bool whole =
        out.write(bytes) == bytes.size() && out.flush() && out.size() == bytes.size() && ::fsync(out.handle()) == 0;
    if (!whole) out.cancelWriting();
    if (!out.commit() || !whole)
        return tr(
            "%1 could not be saved: %2. The file on disk is as it was before; free some space or choose another place.")
            .arg(file, out.errorString());
    return {};
}

} // namespace

Result<ProjectRead, QString> load_project(const QString& file) {
    using Out = Result<ProjectRead, QString>;
    QFile in(file);
    if (!QFileInfo::exists(file)) return Out::failure(tr("%1 is not there.").arg(file));
    if (!in.open(QIODevice::ReadOnly)) return Out::failure(tr("%1 cannot be read: %2.").arg(file, in.errorString()));
    const QByteArray bytes = in.read(static_cast<qint64>(largest_file) + 1);
    auto project = read_project(std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
    if (!project)
        return Out::failure(tr("%1 is not opened: %2").arg(file, QString::fromStdString(to_text(project.error()))));
    return std::move(*project);
}

Result<ProjectRead, QString> load_demo() {
    need_resources();
    return load_project(QStringLiteral(":/projects/tile-glazing-cell.fulmox"));
}

QString save_project(const QString& file, const Machine& machine) {
    const std::string text = write_project(machine);
    if (text.size() > largest_file)
        return QObject::tr(
            "the project would have %1 MB, and files over %2 MB are not opened again; thin out its traces and paths")
            .arg(text.size() >> 20)
            .arg(largest_file >> 20);
    return write_atomically(file, QByteArray::fromStdString(text));
}

QStringList recent_files() { return QSettings().value(QStringLiteral("recent")).toStringList(); }

void remember_file(const QString& file) {
    QStringList files = recent_files();
    files.removeAll(file);
    files.prepend(file);
    while (files.size() > 8) files.removeLast();
    QSettings().setValue(QStringLiteral("recent"), files);
}

Recovery::Recovery(QString folder) : folder_(std::move(folder)) {
    if (folder_.isEmpty())
        folder_ = QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) + QStringLiteral("/recovery");
    QDir().mkpath(folder_);
    own_ = folder_ + QLatin1Char('/') + QUuid::createUuid().toString(QUuid::WithoutBraces) + QStringLiteral(".json");
    lock_ = std::make_unique<QLockFile>(own_ + QStringLiteral(".lock"));
    lock_->setStaleLockTime(0);
    lock_->tryLock();
}

Recovery::~Recovery() = default;

QString Recovery::keep(const Machine& machine, const QString& original) {
    const QJsonObject wrapped{{QStringLiteral("file"), original},
        {QStringLiteral("project"), QString::fromStdString(write_project(machine))}};
    return write_atomically(own_, QJsonDocument(wrapped).toJson());
}

void Recovery::forget() { QFile::remove(own_); }

std::vector<Leftover> Recovery::leftovers() const {
    std::vector<Leftover> out;
    for (const QFileInfo& f : QDir(folder_).entryInfoList({QStringLiteral("*.json")}, QDir::Files, QDir::Time)) {
        if (f.absoluteFilePath() == QFileInfo(own_).absoluteFilePath()) continue;
        QLockFile other(f.absoluteFilePath() + QStringLiteral(".lock"));
        other.setStaleLockTime(0);
        if (!other.tryLock()) continue; // its session still runs
        other.unlock();
        QFile in(f.absoluteFilePath());
        if (!in.open(QIODevice::ReadOnly)) continue;
        const QJsonObject o = QJsonDocument::fromJson(in.readAll()).object();
        out.push_back({f.absoluteFilePath(), o[QStringLiteral("file")].toString(), f.lastModified()});
    }
    return out;
}

Result<ProjectRead, QString> Recovery::load(const Leftover& l) {
    using Out = Result<ProjectRead, QString>;
    QFile in(l.recovery_file);
    if (!in.open(QIODevice::ReadOnly)) return Out::failure(in.errorString());
    const std::string text =
        QJsonDocument::fromJson(in.readAll()).object()[QStringLiteral("project")].toString().toStdString();
    auto project = read_project(text);
    if (!project) return Out::failure(QString::fromStdString(to_text(project.error())));
    return std::move(*project);
}

void Recovery::discard(const Leftover& l) {
    QFile::remove(l.recovery_file);
    QFile::remove(l.recovery_file + QStringLiteral(".lock"));
}

} // namespace fulmox::app
