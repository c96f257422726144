#include "app/picture_file.h"

#include "app/regular_file.h"
#include "core/model/curve_picture.h"

#include <QBuffer>
#include <QFile>
#include <QFileInfo>
#include <QImageReader>
#include <QObject>

namespace fulmox::app {

namespace {

constexpr int reduced_to = 2400; // pixels of the longer side

// Tells how much of the file has been asked for: decoders of pictures do not say how far they are.
class Watched : public QBuffer {
  public:
    Watched(QByteArray* bytes, const GoOn& go_on) : QBuffer(bytes), go_on_(go_on) {}

  protected:
    qint64 readData(char* data, qint64 most) override {
        if (!go_on_()) return -1;
        const qint64 n = QBuffer::readData(data, most);
        read_ = std::max(read_, pos());
        go_on_.done(size() > 0 ? 0.9 * static_cast<double>(read_) / static_cast<double>(size()) : 0);
        return n;
    }

  private:
    const GoOn& go_on_;
    qint64 read_ = 0;
};

} // namespace

Decoded decode_picture(const QByteArray& bytes, const GoOn& go_on) {
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
            QImage paper(image.size(), QImage::Format_RGB32);
            paper.fill(Qt::white);
            QImage argb = image.convertToFormat(QImage::Format_ARGB32);
            for (int y = 0; y < paper.height(); ++y) {
                auto* to = reinterpret_cast<QRgb*>(paper.scanLine(y));
                const auto* from = reinterpret_cast<const QRgb*>(argb.constScanLine(y));
                for (int x = 0; x < paper.width(); ++x) {
                    const int a = qAlpha(from[x]);
                    const auto over = [a](int c) { return (c * a + 255 * (255 - a)) / 255; };
                    to[x] = qRgb(over(qRed(from[x])), over(qGreen(from[x])), over(qBlue(from[x])));
                }
            }
            image = std::move(paper);
        } else {
            image.convertTo(QImage::Format_RGB32);
        }
    }
    go_on.done(0.95);
    if (const int longer = std::max(image.width(), image.height()); longer > reduced_to)
        out.reduced = image.scaled(reduced_to, reduced_to, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    out.full = std::move(image);
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
