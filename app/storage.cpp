#include "app/storage.h"
#include "app/words.h"

#include "app/regular_file.h"
#include "app/theme.h"

#include <QCoreApplication>
#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QRegularExpression>
#include <QSaveFile>
#include <QSettings>
#include <QStandardPaths>
#include <QThread>
#include <QUuid>
#include <algorithm>
#include <cerrno>
#include <fcntl.h>
#include <functional>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

namespace fulmox::app {

namespace {

QString tr(const char* text) { return QCoreApplication::translate("Storage", text); }

QString write_whole(const QString& file, const QByteArray& bytes, bool private_to_user) {
    if (const QString wrong = in_the_way_of(file); !wrong.isEmpty())
        return tr("%1 is not written: %2. Choose another name; the work is still open here.").arg(file, wrong);
    QSaveFile out(file);
    if (!out.open(QIODevice::WriteOnly))
        return tr("%1 cannot be written: %2. Choose another folder, or free its write protection; the work is still "
                  "open here.")
            .arg(file, out.errorString());
    if (private_to_user) out.setPermissions(QFileDevice::ReadOwner | QFileDevice::WriteOwner);
    // commit() alone takes a file that was cut short by a full disk for a good one
    errno = 0;
    const bool whole =
        out.write(bytes) == bytes.size() && out.flush() && out.size() == bytes.size() && ::fsync(out.handle()) == 0;
    const int why = errno; // Qt calls a full disk an unknown error
    if (!whole) out.cancelWriting();
    if (!out.commit() || !whole)
        return tr(
            "%1 could not be saved: %2. The file on disk is as it was before; free some space or choose another place.")
            .arg(file, why != 0 ? qt_error_string(why) : out.errorString());
    return {};
}

// Where a note of what is being written lies, but for its ending, so that a later session finds the half of a file a
// killed one left.
QString writing_note;

// The other name under which a file is written before it takes its place: six letters more.
bool is_half_of(const QString& name, const QString& whole) {
    static const QRegularExpression letters(QStringLiteral("^\\.[A-Za-z]{6}$"));
    return name.startsWith(whole) && letters.match(name.mid(whole.size())).hasMatch();
}

void remove_halves(const QString& file, const QDateTime& noted) {
    const QFileInfo whole(file);
    const QDateTime since = noted.addSecs(-1); // the clock of the file system lags behind a little
    for (const QFileInfo& f : whole.dir().entryInfoList(QDir::Files | QDir::Hidden))
        if (is_half_of(f.fileName(), whole.fileName()) && f.lastModified() >= since)
            QFile::remove(f.absoluteFilePath());
}

} // namespace

QString write_atomically(const QString& file, const QByteArray& bytes, bool private_to_user) {
    // two files may be written at a time, one of them beside the window
    const bool beside = qApp && QThread::currentThread() != qApp->thread();
    const QString noted =
        writing_note.isEmpty() ? QString() : writing_note + QLatin1String(beside ? ".beside.writing" : ".writing");
    if (!noted.isEmpty()) {
        QFile note(noted);
        if (note.open(QIODevice::WriteOnly))
            note.write(QJsonDocument(QJsonObject{{QStringLiteral("file"), QFileInfo(file).absoluteFilePath()},
                                         {QStringLiteral("since"), QDateTime::currentMSecsSinceEpoch()}})
                           .toJson());
    }
    const QString why = write_whole(file, bytes, private_to_user);
    if (!noted.isEmpty()) QFile::remove(noted);
    return why;
}

std::optional<QByteArray> content_mark(const QString& file) {
    const auto bytes = read_regular(file);
    if (!bytes) return std::nullopt;
    return QCryptographicHash::hash(*bytes, QCryptographicHash::Sha1);
}

bool HeldFile::held_elsewhere(const QString& file) {
    const int handle = ::open(QFile::encodeName(file).constData(), O_RDWR | O_CLOEXEC);
    if (handle < 0) return false;
    const bool taken = ::flock(handle, LOCK_EX | LOCK_NB) != 0;
    ::close(handle);
    return taken;
}

bool HeldFile::hold(const QString& file) {
    release();
    for (int tries = 0; tries < 10; ++tries) {
        const QByteArray name = QFile::encodeName(file);
        const int handle = ::open(name.constData(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
        if (handle < 0) return true; // where nothing can be written nobody can be asked
        struct stat ours {
        }, there{};
        if (::flock(handle, LOCK_EX | LOCK_NB) != 0) {
            ::close(handle);
            return false;
        }
        // its last holder may have removed it between the two
        if (::fstat(handle, &ours) == 0 && ::stat(name.constData(), &there) == 0 && ours.st_ino == there.st_ino) {
            file_ = file;
            handle_ = handle;
            return true;
        }
        ::close(handle);
    }
    return true;
}

void HeldFile::release() {
    if (handle_ < 0) return;
    QFile::remove(file_);
    ::close(handle_);
    handle_ = -1;
}

Result<ProjectRead, QString> load_project(const QString& file) {
    using Out = Result<ProjectRead, QString>;
    if (!QFileInfo::exists(file)) return Out::failure(tr("%1 is not there.").arg(file));
    const auto bytes = read_regular(file);
    if (!bytes) return Out::failure(bytes.error() + QLatin1Char('.'));
    auto project = read_project(std::string_view(bytes->constData(), static_cast<std::size_t>(bytes->size())));
    if (!project) return Out::failure(tr("%1 is not opened: %2").arg(file, qs(to_text(project.error()))));
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
    // unsaved work is nobody else's to read
    QFile::setPermissions(folder_, QFileDevice::ReadOwner | QFileDevice::WriteOwner | QFileDevice::ExeOwner);
    own_ = folder_ + QLatin1Char('/') + QUuid::createUuid().toString(QUuid::WithoutBraces) + QStringLiteral(".json");
    session_.hold(own_ + QStringLiteral(".lock"));
    clear_up();
    writing_note = own_;
}

Recovery::~Recovery() {
    if (writing_note == own_) writing_note.clear();
}

// What ended sessions left that holds no work: halves of files, notes, locks.
void Recovery::clear_up() {
    const QDir folder(folder_);
    const auto ended = [&](const QString& work) {
        return work != QFileInfo(own_).fileName() &&
               !HeldFile::held_elsewhere(folder.filePath(work + QStringLiteral(".lock")));
    };
    static const QString ending = QStringLiteral(".json");
    for (const QFileInfo& f : folder.entryInfoList(QDir::Files | QDir::Hidden)) {
        const QString name = f.fileName();
        const qsizetype at = name.indexOf(ending);
        if (at < 0 || name.endsWith(ending) || !ended(name.left(at + ending.size()))) continue;
        if (name.endsWith(QLatin1String(".writing"))) {
            if (const auto note = read_regular(f.absoluteFilePath(), 1 << 16)) {
                const QJsonObject o = QJsonDocument::fromJson(*note).object();
                if (const QString file = o[QStringLiteral("file")].toString(); !file.isEmpty())
                    remove_halves(file, QDateTime::fromMSecsSinceEpoch(o[QStringLiteral("since")].toInteger()));
            }
        } else if (name.endsWith(QLatin1String(".lock"))) {
            if (folder.exists(name.left(at + ending.size()))) continue; // the work itself is still there
        } else if (!is_half_of(name, name.left(at + ending.size()))) {
            continue;
        }
        QFile::remove(f.absoluteFilePath());
    }
}

bool Recovery::claim(const QString& file) {
    file_.release();
    if (file.isEmpty()) return true;
    const QFileInfo info(file);
    const QString one = info.exists() ? info.canonicalFilePath() : info.absoluteFilePath();
    const QByteArray name = QCryptographicHash::hash(one.toUtf8(), QCryptographicHash::Sha1).toHex();
    return file_.hold(folder_ + QStringLiteral("/open-") + QString::fromLatin1(name));
}

QString Recovery::keep(const Machine& machine, const QString& original, const QByteArray& mark) {
    return write_atomically(own_,
        QByteArray::fromStdString(
            write_recovery({original.toStdString(), mark.toHex().toStdString(), write_project(machine)})),
        true);
}

Result<RecoveryFile, QString> Recovery::read_kept(const QString& file) {
    using Out = Result<RecoveryFile, QString>;
    const auto bytes = read_regular(file, 2 * static_cast<qint64>(largest_file));
    if (!bytes) return Out::failure(bytes.error());
    auto kept = read_recovery(std::string_view(bytes->constData(), static_cast<std::size_t>(bytes->size())));
    if (!kept) return Out::failure(qs(to_text(kept.error())));
    return std::move(*kept);
}

void Recovery::forget() { QFile::remove(own_); }

std::vector<Leftover> Recovery::leftovers() const {
    std::vector<Leftover> out;
    for (const QFileInfo& f : QDir(folder_).entryInfoList({QStringLiteral("*.json")}, QDir::Files, QDir::Time)) {
        if (f.absoluteFilePath() == QFileInfo(own_).absoluteFilePath()) continue;
        if (HeldFile::held_elsewhere(f.absoluteFilePath() + QStringLiteral(".lock"))) continue; // still runs
        const auto kept = read_kept(f.absoluteFilePath());
        Leftover l{f.absoluteFilePath(), {}, f.lastModified(), {}};
        if (kept) {
            l.original_file = QString::fromStdString(kept->file);
            l.mark = QByteArray::fromHex(QByteArray::fromStdString(kept->mark));
        }
        l.readable = static_cast<bool>(kept);
        out.push_back(std::move(l));
    }
    std::stable_partition(
        out.begin(), out.end(), std::mem_fn(&Leftover::readable)); // one that cannot be read hides none that can
    return out;
}

Result<ProjectRead, QString> Recovery::load(const Leftover& l) {
    using Out = Result<ProjectRead, QString>;
    const auto kept = read_kept(l.recovery_file);
    if (!kept) return Out::failure(kept.error());
    auto project = read_project(kept->project);
    if (!project) return Out::failure(qs(to_text(project.error())));
    return std::move(*project);
}

void Recovery::discard(const Leftover& l) {
    QFile::remove(l.recovery_file);
    QFile::remove(l.recovery_file + QStringLiteral(".lock"));
}

} // namespace fulmox::app
