// The one way in which the window reads files: regular files only, opened without waiting, measured before they are
// read. A FIFO or a device where a file was meant is refused by name, never waited for.
#pragma once

#include "core/files/bounds.h"
#include "core/quantity/result.h"

#include <QByteArray>
#include <QString>

namespace fulmox::app {

/// Bytes of the file, at most `most`; else one sentence: why not. Files within the program (":/…") are read too.
Result<QByteArray, QString> read_regular(const QString& file, qint64 most = static_cast<qint64>(largest_file));

/// Files above this are read beside the window.
inline constexpr qint64 read_at_once = 1 << 16;

/// The first bytes of a regular file, at most so many.
Result<QByteArray, QString> head_of_regular(const QString& file, qint64 most);

/// Bytes of a regular file without reading it; else why it cannot be read.
Result<qint64, QString> size_of_regular(const QString& file);

/// Empty where a file may be written there: nothing, or a regular file. Else what stands in the way.
QString in_the_way_of(const QString& file);

} // namespace fulmox::app
