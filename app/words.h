// Words of the core for Qt.
#pragma once

#include "core/match/candidates.h"
#include "core/quantity/unit.h"
#include "core/quantity/visible.h"

#include <QRegularExpression>
#include <QString>
#include <string>

namespace fulmox::app {

/// As it is shown: characters that would turn the text around them are codes.
inline QString qs(const std::string& s) { return QString::fromStdString(visible(s)); }
/// The same of a name that is Qt's already: of a file.
inline QString shown(const QString& s) { return qs(s.toStdString()); }
/// As it is, where it is edited or taken back.
inline QString raw(const std::string& s) { return QString::fromStdString(s); }
/// A long sum with blanks at which it can break; the sign of an exponent stays where it is.
inline QString breakable(QString sum) {
    static const QRegularExpression sign(QStringLiteral("(?<![eE(*/+-])([+*])"));
    return sum.replace(sign, QStringLiteral(" \\1 "));
}
/// "12 suitable, 30 unknown, 5 over".
inline QString counted(const CandidateCount& n) { return qs(count_words(n)); }
inline QString symbol(const Unit& u) {
    return QString::fromUtf8(u.symbol.data(), static_cast<qsizetype>(u.symbol.size()));
}

} // namespace fulmox::app
