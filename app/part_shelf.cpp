#include "app/part_shelf.h"

#include "app/regular_file.h"
#include "app/storage.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/files/part_table.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QRegularExpression>
#include <QStandardPaths>
#include <algorithm>

namespace fulmox::app {

namespace {

QString message_of(const Problem& p) { return qs(to_text(p)); }

// What is under this name in the folder.
QString file_name(const QString& name) {
    QString plain = name.toLower();
    plain.replace(QRegularExpression(QStringLiteral("[^a-z0-9]+")), QStringLiteral("-"));
    plain = plain.left(60);
    while (plain.startsWith(QLatin1Char('-'))) plain.remove(0, 1);
    while (plain.endsWith(QLatin1Char('-'))) plain.chop(1);
    return (plain.isEmpty() ? QStringLiteral("parts") : plain) + QStringLiteral(".json");
}

UserCatalogue read_catalogue(const QFileInfo& f) {
    UserCatalogue c;
    c.file = f.absoluteFilePath();
    c.name = f.completeBaseName();
    // a list may be larger than a project
    const auto bytes = read_regular(c.file, 4 * static_cast<qint64>(largest_file));
    if (!bytes) {
        c.problem = bytes.error();
        return c;
    }
    auto read = read_any_parts(std::string_view(bytes->constData(), static_cast<std::size_t>(bytes->size())),
        f.fileName().toStdString(), f.lastModified().date().toString(Qt::ISODate).toStdString());
    if (!read) {
        c.problem = message_of(read.error());
        return c;
    }
    c.parts = std::make_shared<PartLists>(std::move(read->parts));
    if (!read->name.empty() && f.suffix() == QStringLiteral("json")) c.name = qs(read->name);
    for (const Problem& p : read->problems)
        if (p.severity == Severity::error && c.problem.isEmpty()) c.problem = message_of(p);
    return c;
}

// Adds the parts to the catalogue of this name in the folder. Uses nothing of the window's.
QString keep_in(const QString& folder, const QString& name, const PartLists& parts) {
    if (!QDir().mkpath(folder)) return PartShelf::tr("%1 cannot be made").arg(folder);
    const QString file = folder + QLatin1Char('/') + file_name(name);
    PartLists all;
    if (QFile::exists(file)) {
        const auto bytes = read_regular(file);
        if (!bytes) return bytes.error();
        auto read = read_parts(std::string_view(bytes->constData(), static_cast<std::size_t>(bytes->size())));
        // what cannot be read whole is not written over
        if (!read) return PartShelf::tr("%1: %2").arg(file, message_of(read.error()));
        for (const Problem& p : read->problems)
            if (p.severity == Severity::error) return PartShelf::tr("%1: %2").arg(file, message_of(p));
        all = std::move(read->parts);
    }
    for (const PartKind& kind : part_kinds()) {
        keep_all(kind, all, parts);
        if (kind.own(all).size() > most_parts)
            return PartShelf::tr("%1 would hold more than %2 parts").arg(file).arg(most_parts);
    }
    const std::string text = write_parts(name.toStdString(), all);
    if (text.size() > largest_file)
        return PartShelf::tr(
            "%1 would be %2 MB; at most %3 MB are read again. Put the list itself into %4 as CSV, or keep fewer parts.")
            .arg(file)
            .arg(text.size() >> 20)
            .arg(largest_file >> 20)
            .arg(folder);
    return write_atomically(file, QByteArray::fromStdString(text));
}

} // namespace

PartShelf::PartShelf(QObject* parent) : QObject(parent) {}

const PartLists& PartShelf::shipped() const {
    static const PartLists once = read_shipped();
    return once;
}

PartLists PartShelf::read_shipped() {
    PartLists out;
    need_resources();
    for (const PartKind& kind : part_kinds()) {
        QFile file(QStringLiteral(":/catalogue/%1.csv").arg(QString::fromUtf8(kind.list)));
        if (!file.open(QIODevice::ReadOnly)) continue;
        const QByteArray bytes = file.readAll();
        auto read = read_any_parts(
            std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())), "Aviary catalogue", "");
        if (!read) continue;
        const std::size_t count = kind.own(read->parts).size();
        for (std::size_t i = 0; i < count; ++i) kind.keep(out, read->parts, i);
    }
    return out;
}

QString PartShelf::folder() const {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + QStringLiteral("/catalogues");
}

void PartShelf::reload(const QString& written) {
    seen_.erase(written); // its time may be the same
    std::map<QString, QDateTime> now;
    const QFileInfoList files = QDir(folder()).entryInfoList(
        {QStringLiteral("*.json"), QStringLiteral("*.csv"), QStringLiteral("*.tsv"), QStringLiteral("*.txt")},
        QDir::Files, QDir::Name);
    for (const QFileInfo& f : files) now[f.absoluteFilePath()] = f.lastModified();
    if (now == seen_) return;
    seen_ = std::move(now);
    own_.clear();
    QFileInfoList large;
    for (const QFileInfo& f : files) {
        const bool later = f.size() > read_at_once;
        if (later) large << f;
        own_.push_back(later ? UserCatalogue{.file = f.absoluteFilePath(),
                                   .name = f.completeBaseName(),
                                   .problem = tr("being read…")}
                             : read_catalogue(f));
    }
    if (large.empty())
        reading_.drop();
    else
        reading_.run(
            this,
            [large](const StopToken& go_on) {
                std::vector<UserCatalogue> out;
                for (const QFileInfo& f : large)
                    if (go_on()) out.push_back(read_catalogue(f));
                return out;
            },
            [this](std::vector<UserCatalogue> read) {
                for (UserCatalogue& c : read) {
                    const auto held = std::find_if(
                        own_.begin(), own_.end(), [&](const UserCatalogue& each) { return each.file == c.file; });
                    if (held != own_.end()) *held = std::move(c);
                }
                ++revision_;
                emit changed();
            });
    ++revision_;
    emit changed();
}

QString PartShelf::keep(const QString& name, const PartLists& parts) {
    const QString wrong = keep_in(folder(), name, parts);
    if (wrong.isEmpty()) reload(folder() + QLatin1Char('/') + file_name(name));
    return wrong;
}

void PartShelf::keep_beside(
    const QString& name, std::shared_ptr<const PartLists> parts, std::function<void(const QString&)> then) {
    // another list of the same name may be under way: what it adds must not be lost
    if (keeping_.running()) return then(tr("another list is still being kept; try again when it is done"));
    keeping_.run(
        this,
        [folder = folder(), name, parts = std::move(parts)](const StopToken&) -> QString {
            try {
                return keep_in(folder, name, *parts);
            } catch (const std::exception& e) {
                return tr("%1 could not be kept: %2").arg(name, QString::fromUtf8(e.what()));
            }
        },
        [this, file = folder() + QLatin1Char('/') + file_name(name), then = std::move(then)](const QString& wrong) {
            if (wrong.isEmpty()) reload(file);
            then(wrong);
        });
}

QString PartShelf::remove(const QString& file) {
    QFile gone(file);
    if (!gone.remove()) return tr("%1 cannot be removed: %2").arg(file, gone.errorString());
    reload();
    return {};
}

PartShelf& part_shelf() {
    static auto* once = [] {
        auto* shelf = new PartShelf(qApp);
        shelf->reload();
        return shelf;
    }();
    return *once;
}

} // namespace fulmox::app
