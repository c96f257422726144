#include "app/picture/picture_file.h"

#include "app/regular_file.h"
#include "core/model/curve_picture.h"

#include <QBuffer>
#include <QFile>
#include <QFileInfo>
#include <QImageReader>
#include <QObject>
#include <cstdint>
#include <sys/mman.h>
#include <unistd.h>

namespace fulmox::app {

namespace {

constexpr int reduced_to = 2000;             // pixels of the longer side
constexpr qint64 compact_above = 16'000'000; // pixels

// Three bytes a pixel in place of four. What has been copied is given back to the system on the way, so that there are
// never two pictures in memory.
QImage compact(QImage image) {
    QImage out(image.size(), QImage::Format_RGB888);
    if (out.isNull()) return image;
    const auto page = static_cast<std::uintptr_t>(::sysconf(_SC_PAGESIZE));
    uchar* const bits = image.bits(); // nobody else's from here on
    std::uintptr_t given = (reinterpret_cast<std::uintptr_t>(bits) + page - 1) / page * page;
    for (int y = 0; y < image.height(); ++y) {
        uchar* to = out.scanLine(y);
        const auto* from = reinterpret_cast<const QRgb*>(image.constScanLine(y));
        for (int x = 0; x < image.width(); ++x) {
            *to++ = static_cast<uchar>(qRed(from[x]));
            *to++ = static_cast<uchar>(qGreen(from[x]));
            *to++ = static_cast<uchar>(qBlue(from[x]));
        }
        const auto done = reinterpret_cast<std::uintptr_t>(from + image.width()) / page * page;
        if (done <= given + (1 << 22)) continue;
        ::madvise(reinterpret_cast<void*>(given), done - given, MADV_DONTNEED);
        given = done;
    }
    return out;
}

// Tells how much of the file has been asked for: decoders of pictures do not say how far they are.
class Watched : public QBuffer {
  public:
    Watched(QByteArray* bytes, const StopToken& go_on) : QBuffer(bytes), go_on_(go_on) {}

  protected:
    qint64 readData(char* data, qint64 most) override {
        if (!go_on_()) return -1;
        const qint64 n = QBuffer::readData(data, most);
        read_ = std::max(read_, pos());
        go_on_.done(size() > 0 ? 0.9 * static_cast<double>(read_) / static_cast<double>(size()) : 0);
        return n;
    }

  private:
    const StopToken& go_on_;
    qint64 read_ = 0;
};

} // namespace

Decoded decode_picture(const QByteArray& bytes, const StopToken& go_on) {
    Decoded out;
    QByteArray held = bytes;
    Watched device(&held, go_on);
    device.open(QIODevice::ReadOnly);
    QImageReader::setAllocationLimit(static_cast<int>((most_pixels * 4 >> 20) + 16));
    QImageReader reader(&device);
    reader.setDecideFormatFromContent(true);
    reader.setAutoTransform(true);
    out.format = QString::fromLatin1(reader.format());
    const QStringList allowed{QStringLiteral("png"), QStringLiteral("jpeg"), QStringLiteral("jpg"),
        QStringLiteral("bmp"), QStringLiteral("gif")};
    if (!allowed.contains(out.format)) {
        out.wrong = out.format.isEmpty()
                        ? QObject::tr("it is no picture; PNG, JPEG, BMP and GIF are read")
                        : QObject::tr("it is %1; PNG, JPEG, BMP and GIF are read").arg(out.format.toUpper());
        return out;
    }
    const QSize size = reader.size();
    if (const qint64 pixels = static_cast<qint64>(size.width()) * size.height(); pixels > most_pixels) {
        out.wrong = QObject::tr("it has %1 × %2 pixels; at most %3 million are read")
                        .arg(size.width())
                        .arg(size.height())
                        .arg(most_pixels / 1'000'000);
        return out;
    }
    QImage image;
    if (!reader.read(&image) || image.isNull()) {
        out.wrong = QObject::tr("its pixels cannot be read: %1").arg(reader.errorString());
        return out;
    }
    if (image.format() != QImage::Format_RGB32) {
        if (image.hasAlphaChannel()) { // see-through paper is white
            // in place: two of them would be half a gigabyte
            image.convertTo(QImage::Format_ARGB32);
            for (int y = 0; y < image.height(); ++y) {
                auto* line = reinterpret_cast<QRgb*>(image.scanLine(y));
                for (int x = 0; x < image.width(); ++x) {
                    const int a = qAlpha(line[x]);
                    const auto over = [a](int c) { return (c * a + 255 * (255 - a)) / 255; };
                    line[x] = qRgb(over(qRed(line[x])), over(qGreen(line[x])), over(qBlue(line[x])));
                }
            }
            image.reinterpretAsFormat(QImage::Format_RGB32);
        } else {
            image.convertTo(QImage::Format_RGB32);
        }
    }
    go_on.done(0.95);
    if (const int longer = std::max(image.width(), image.height()); longer > reduced_to)
        out.reduced = image.scaled(reduced_to, reduced_to, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    out.full = static_cast<qint64>(image.width()) * image.height() > compact_above ? compact(std::move(image))
                                                                                   : std::move(image);
    return out;
}

Result<QByteArray, QString> read_picture_file(const QString& file) {
    using Out = Result<QByteArray, QString>;
    const QString name = QFileInfo(file).fileName();
    if (const auto size = size_of_regular(file); size && *size > static_cast<qint64>(CurvePicture::largest))
        return Out::failure(QObject::tr("%1 has %2 MB; a picture of at most %3 MB is kept")
                                .arg(name)
                                .arg((*size + (1 << 20) - 1) >> 20)
                                .arg(CurvePicture::largest >> 20));
    auto bytes = read_regular(file, static_cast<qint64>(CurvePicture::largest));
    if (bytes && bytes->isEmpty()) return Out::failure(QObject::tr("%1 is empty").arg(name));
    return bytes;
}

Attachment attach(const QByteArray& bytes) {
    return {std::make_shared<const std::string>(bytes.toBase64().toStdString())};
}

QByteArray bytes_of(const Attachment& a) {
    return a.empty() ? QByteArray()
                     : QByteArray::fromBase64(
                           QByteArray::fromRawData(a.base64->data(), static_cast<qsizetype>(a.base64->size())));
}

} // namespace fulmox::app
