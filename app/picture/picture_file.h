// Pictures of datasheet curves: from a file or the clipboard to pixels.
#pragma once

#include "app/background.h"
#include "core/model/attachment.h"
#include "core/quantity/result.h"

#include <QImage>
#include <QString>

namespace fulmox::app {

/// A picture as it is looked at.
struct Decoded {
    QImage full;
    QImage reduced; ///< for looking at all of it; null where `full` serves
    QString format; ///< "png"
    QString wrong;  ///< why there is none
};

/// Most pixels of one picture: in memory each takes four bytes.
inline constexpr qint64 most_pixels = 60'000'000;

/// Reads the pixels; says how far it has come.
Decoded decode_picture(const QByteArray& bytes, const StopToken& go_on);

/// What the file holds, or in what it cannot be used.
Result<QByteArray, QString> read_picture_file(const QString& file);

Attachment attach(const QByteArray& bytes);
QByteArray bytes_of(const Attachment& attachment);

} // namespace fulmox::app
