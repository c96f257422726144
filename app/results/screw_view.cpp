#include "app/results/screw_view.h"

#include "app/storage.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace fulmox::app {

ScrewPicture::ScrewPicture(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("screw-picture"));
    setMinimumHeight(190);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void ScrewPicture::show_drawing(Drawing drawing) {
    drawing_ = std::move(drawing);
    QStringList said;
    for (const Drawing::Word& w : drawing_.words) said << qs(w.text);
    setAccessibleName(
        said.isEmpty() ? tr("No drawing yet") : tr("Screw to scale: %1").arg(said.join(QStringLiteral(", "))));
    update();
}

void ScrewPicture::paintEvent(QPaintEvent*) {
    if (drawing_.lines.empty()) return;
    const Theme& t = theme();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double w = drawing_.right - drawing_.left, h = drawing_.top - drawing_.bottom;
    const double scale = std::min((width() - 16) / w, (height() - 8) / h);
    const double x0 = (width() - scale * w) / 2, y0 = (height() + scale * h) / 2;
    const auto at = [&](double x, double y) {
        return QPointF(x0 + scale * (x - drawing_.left), y0 - scale * (y - drawing_.bottom));
    };
    for (const Drawing::Line& l : drawing_.lines) {
        const QString layer = QString::fromUtf8(l.layer);
        QPen pen(layer == QStringLiteral("OUTLINE")      ? t.ink
                 : layer == QStringLiteral("DIMENSIONS") ? t.accent
                                                         : t.second,
            layer == QStringLiteral("OUTLINE") ? 1.6 : 0.8);
        if (layer == QStringLiteral("CENTRE")) pen.setDashPattern({10, 3, 2, 3});
        p.setPen(pen);
        p.drawLine(at(l.x1, l.y1), at(l.x2, l.y2));
    }
    for (const Drawing::Word& word : drawing_.words) {
        p.setFont(type_face(std::clamp(scale * word.height * 1.35, 11.0, 14.0)));
        p.setPen(t.ink);
        const QPointF place = at(word.x, word.y);
        const double width = p.fontMetrics().horizontalAdvance(qs(word.text));
        p.drawText(QPointF(place.x() - (word.anchor == 0     ? width / 2
                                           : word.anchor > 0 ? width
                                                             : 0),
                       place.y()),
            qs(word.text));
    }
}

ScrewView::ScrewView(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(2, 4, 2, 0);
    box->setSpacing(4);
    auto* line = new QHBoxLayout;
    sums_ = new QLabel;
    sums_->setObjectName(QStringLiteral("screw-sums"));
    sums_->setWordWrap(true);
    sums_->setTextFormat(Qt::PlainText);
    line->addWidget(sums_, 1);
    export_ = new QPushButton(tr("Export drawing…"));
    export_->setObjectName(QStringLiteral("link"));
    export_->setToolTip(tr("As SVG, or as DXF for a drawing program; in millimetres"));
    connect(export_, &QPushButton::clicked, this, [this] {
        const QString file = QFileDialog::getSaveFileName(
            this, tr("Export drawing"), QStringLiteral("screw.svg"), tr("Drawing, SVG (*.svg);;Drawing, DXF (*.dxf)"));
        if (file.isEmpty()) return;
        const QString wrong = export_to(file);
        if (!wrong.isEmpty()) emit document_.refused(wrong);
    });
    line->addWidget(export_, 0, Qt::AlignTop);
    box->addLayout(line);
    picture_ = new ScrewPicture;
    box->addWidget(picture_, 1);
    warnings_ = new QLabel;
    warnings_->setObjectName(QStringLiteral("screw-warnings"));
    warnings_->setWordWrap(true);
    warnings_->setTextFormat(Qt::PlainText);
    box->addWidget(warnings_);
}

void ScrewView::refresh() {
    if (!document_.has_axis()) return;
    const Assessment& a = document_.assessment();
    layout_ = screw_layout(document_.axis(), a.motion ? a.motion->stroke() : std::nan(""));
    const UnitSystem units = document_.machine().unit_system;
    const auto length = [&](double m) { return qs(format_quantity(m, Kind::length, units, 4)); };
    if (!layout_.missing.empty()) {
        drawing_ = {};
        sums_->setText(tr("The drawing waits for: %1.").arg(qs(layout_.missing)));
        warnings_->clear();
    } else {
        const ScrewLayout::Place& worst = *std::min_element(layout_.places.begin(), layout_.places.end(),
            [](const auto& x, const auto& y) { return x.buckling < y.buckling; });
        drawing_ = screw_drawing(layout_, document_.axis().name);
        QString words = tr("%1 long, thread %2, free length %3, loaded length %4")
                            .arg(length(layout_.length), length(layout_.thread_to - layout_.thread_from),
                                length(layout_.free_length), length(layout_.loaded_length));
        if (std::isfinite(worst.buckling))
            words += tr("; it buckles at %1 with the nut at the far end, at %2 with it at the near one")
                         .arg(qs(format_quantity(worst.buckling, Kind::force, units, 3)),
                             qs(format_quantity(layout_.places.front().buckling, Kind::force, units, 3)));
        if (std::isfinite(layout_.critical_speed)) {
            const auto speed = [&](double v) { return qs(format_quantity(v, Kind::angular_speed, units, 3)); };
            const ScrewLayout::Place& slowest = *std::min_element(layout_.places.begin(), layout_.places.end(),
                [](const auto& x, const auto& y) { return x.critical_speed < y.critical_speed; });
            words +=
                tr("; critical speed of all its diameters %1, and with the nut as one more bearing at least %2, the "
                   "nut at %3")
                    .arg(speed(layout_.critical_speed), speed(slowest.critical_speed), length(slowest.at));
        }
        sums_->setText(words + QLatin1Char('.'));
        QStringList warnings;
        for (const Text& w : layout_.warnings) warnings << QStringLiteral("\u25c6 ") + qs(w.in(units));
        warnings_->setText(
            warnings.isEmpty() ? tr("Nothing in the plan speaks against it.") : warnings.join(QLatin1Char('\n')));
    }
    export_->setEnabled(!drawing_.lines.empty());
    picture_->show_drawing(drawing_);
}

QString ScrewView::export_to(const QString& file) const {
    const bool dxf = file.endsWith(QStringLiteral(".dxf"), Qt::CaseInsensitive);
    if (!dxf && !file.endsWith(QStringLiteral(".svg"), Qt::CaseInsensitive))
        return tr("found \"%1\"; a drawing is written as .svg or .dxf").arg(file);
    return write_atomically(file, QByteArray::fromStdString(dxf ? drawing_dxf(drawing_) : drawing_svg(drawing_)));
}

} // namespace fulmox::app
