#include "app/regular_file.h"

#include <QCoreApplication>
#include <QFile>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace fulmox::app {

namespace {

QString said(const char* text) { return QCoreApplication::translate("RegularFile", text); }

QString kind_of(const struct stat& s) {
    return S_ISDIR(s.st_mode)    ? said("it is a folder")
           : S_ISFIFO(s.st_mode) ? said("it is a pipe, no regular file")
           : S_ISSOCK(s.st_mode) ? said("it is a socket, no regular file")
                                 : said("it is a device, no regular file");
}

QString last_error() { return QString::fromLocal8Bit(std::strerror(errno)); }

// The descriptor of a regular file and its size.
Result<std::pair<int, qint64>, QString> opened(const QString& file) {
    using Out = Result<std::pair<int, qint64>, QString>;
    // non-blocking: the open of a FIFO without a writer would wait for one
    const int handle = ::open(QFile::encodeName(file).constData(), O_RDONLY | O_NONBLOCK | O_CLOEXEC | O_NOCTTY);
    if (handle < 0) return Out::failure(last_error());
    struct stat about {};
    QString wrong;
    if (::fstat(handle, &about) != 0)
        wrong = last_error();
    else if (!S_ISREG(about.st_mode))
        wrong = kind_of(about);
    if (wrong.isEmpty()) return std::pair(handle, static_cast<qint64>(about.st_size));
    ::close(handle);
    return Out::failure(wrong);
}

} // namespace

Result<qint64, QString> size_of_regular(const QString& file) {
    const auto found = opened(file);
    if (!found) return Result<qint64, QString>::failure(said("%1 cannot be read: %2").arg(file, found.error()));
    ::close(found->first);
    return found->second;
}

Result<QByteArray, QString> head_of_regular(const QString& file, qint64 most) {
    const auto found = opened(file);
    if (!found) return Result<QByteArray, QString>::failure(said("%1 cannot be read: %2").arg(file, found.error()));
    QByteArray head(static_cast<qsizetype>(most), '\0');
    const ssize_t got = ::read(found->first, head.data(), static_cast<std::size_t>(most));
    const QString wrong = got < 0 ? last_error() : QString();
    ::close(found->first);
    if (!wrong.isEmpty()) return Result<QByteArray, QString>::failure(said("%1 cannot be read: %2").arg(file, wrong));
    head.truncate(static_cast<qsizetype>(got));
    return head;
}

Result<QByteArray, QString> read_regular(const QString& file, qint64 most) {
    using Out = Result<QByteArray, QString>;
    if (file.startsWith(QLatin1Char(':'))) { // within the program
        QFile in(file);
        if (!in.open(QIODevice::ReadOnly)) return Out::failure(in.errorString());
        return in.readAll();
    }
    const auto found = opened(file);
    if (!found) return Out::failure(said("%1 cannot be read: %2").arg(file, found.error()));
    const auto [handle, size] = *found;
    if (size > most) {
        ::close(handle);
        return Out::failure(said("%1 has %2 MB; allowed are at most %3 MB")
                                .arg(file)
                                .arg((size + (1 << 20) - 1) >> 20)
                                .arg(std::max<qint64>(1, most >> 20)));
    }
    QByteArray bytes;
    bytes.reserve(static_cast<qsizetype>(size));
    // it may grow meanwhile; what is beyond the bound is not read
    char part[1 << 16];
    ssize_t got = 0;
    while (bytes.size() <= most && (got = ::read(handle, part, sizeof part)) > 0) bytes.append(part, got);
    const QString wrong = got < 0 ? last_error() : QString();
    ::close(handle);
    if (!wrong.isEmpty()) return Out::failure(said("%1 cannot be read to the end: %2").arg(file, wrong));
    if (bytes.size() > most)
        return Out::failure(said("%1 grew beyond %2 MB while it was read").arg(file).arg(most >> 20));
    return bytes;
}

QString in_the_way_of(const QString& file) {
    struct stat about {};
    if (::stat(QFile::encodeName(file).constData(), &about) != 0 || S_ISREG(about.st_mode)) return {};
    return kind_of(about);
}

} // namespace fulmox::app
