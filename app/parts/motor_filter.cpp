#include "app/parts/motor_filter.h"

#include "app/bricks/choice.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/expression.h"
#include "core/quantity/format.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QStyle>
#include <map>
#include <set>

namespace fulmox::app {

namespace {

void set_wrong(QLineEdit& edit, const QString& why) {
    const bool wrong = !why.isEmpty();
    if (edit.property("wrong").toBool() == wrong && edit.accessibleDescription() == why) return;
    edit.setProperty("wrong", wrong);
    edit.setAccessibleDescription(why);
    edit.setToolTip(wrong ? plain_tip(why) : edit.accessibleName());
    edit.style()->unpolish(&edit);
    edit.style()->polish(&edit);
}

} // namespace

FilterBar::FilterBar(QWidget* parent) : QWidget(parent) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    words_ = new QLineEdit;
    words_->setObjectName(QStringLiteral("filter-words"));
    words_->setProperty("searches", true);
    connect(words_, &QLineEdit::returnPressed, this, &FilterBar::left);
    words_->setPlaceholderText(tr("Filter"));
    words_->setAccessibleName(tr("Words in name, series, kind or source"));
    words_->setToolTip(words_->accessibleName());
    words_->setClearButtonEnabled(true);
    words_->setMinimumWidth(80);
    connect(words_, &QLineEdit::textChanged, this, &FilterBar::read);
    line->addWidget(words_, 1);
    kind_ = list(tr("Kind"), tr("Kind of motor"), 84);
    series_ = list(tr("Series"), tr("Series"), 84);
    frame_ = list(tr("Frame"), tr("Largest frame"), 84);
    brake_ = list(tr("Brake"), tr("With or without holding brake"), 84);
    volts_ = list(tr("Volts"), tr("Voltage of its curves or its rating, within a tenth"), 76);
    for (QComboBox* each : {kind_, series_, frame_, brake_, volts_}) line->addWidget(each);
    price_ = most(tr("price ≤"), tr("Highest price"));
    mass_ = most(tr("kg ≤"), tr("Largest mass, kg unless a unit is given"));
    line->addWidget(price_);
    line->addWidget(mass_);
}

QComboBox* FilterBar::list(const QString& any, const QString& accessible, int width) {
    auto* box = new Choice;
    box->setAccessibleName(accessible);
    box->setToolTip(accessible);
    box->setFixedWidth(width);
    box->addItem(any, QVariant());
    connect(box, &QComboBox::currentIndexChanged, this, &FilterBar::read);
    return box;
}

QLineEdit* FilterBar::most(const QString& what, const QString& accessible) {
    auto* edit = new QLineEdit;
    edit->setPlaceholderText(what);
    edit->setAccessibleName(accessible);
    edit->setToolTip(accessible);
    edit->setFixedWidth(62);
    connect(edit, &QLineEdit::textChanged, this, &FilterBar::read);
    return edit;
}

void FilterBar::offer(const std::vector<const Motor*>& motors) {
    std::set<QString> series;
    std::set<double> frames, volts;
    std::map<QString, QString> kinds;
    for (const Motor* m : motors) {
        if (!m->series.empty()) series.insert(raw(m->series));
        if (m->frame.given()) frames.insert(m->frame.si);
        const double v = motor_voltage(*m);
        if (v > 0) volts.insert(v);
        kinds[QString::fromUtf8(m->kind_key())] = QString::fromUtf8(m->kind_label());
    }
    const auto fill = [](QComboBox* box, const std::vector<std::pair<QString, QVariant>>& entries) {
        const QSignalBlocker quiet(box);
        const QVariant was = box->currentData();
        while (box->count() > 1) box->removeItem(1);
        for (const auto& [text, key] : entries) box->addItem(text, key);
        const int at = was.isValid() ? box->findData(was) : 0;
        box->setCurrentIndex(std::max(0, at));
    };
    std::vector<std::pair<QString, QVariant>> entries;
    for (const auto& [key, label] : kinds) entries.emplace_back(label, key);
    fill(kind_, entries);
    entries.clear();
    for (const QString& s : series) entries.emplace_back(shown(s), s);
    fill(series_, entries);
    entries.clear();
    for (const double f : frames) entries.emplace_back(tr("≤ %1 mm").arg(qs(format_number(1000 * f))), f);
    fill(frame_, entries);
    entries.clear();
    for (const double v : volts) entries.emplace_back(tr("%1 V").arg(qs(format_number(v))), v);
    fill(volts_, entries);
    fill(brake_, {{tr("with"), true}, {tr("without"), false}});
    read();
}

void FilterBar::read() {
    MotorFilter f;
    f.words = words_->text().toStdString();
    f.kind = kind_->currentData().toString().toStdString();
    f.series = series_->currentData().toString().toStdString();
    f.frame = frame_->currentData().toDouble();
    f.voltage = volts_->currentData().toDouble();
    if (brake_->currentData().isValid()) f.brake = brake_->currentData().toBool();
    const auto most = [](QLineEdit* edit, Kind kind, const char* unit) {
        if (edit->text().trimmed().isEmpty()) {
            set_wrong(*edit, {});
            return 0.0;
        }
        const auto q = read_quantity(edit->text().toStdString(), kind, *find_unit(unit, kind));
        set_wrong(*edit, !q ? qs(q.error().message) : q->si > 0 ? QString() : tr("allowed is a number above 0"));
        return q && q->si > 0 ? q->si : 0.0;
    };
    f.price = most(price_, Kind::number, "1");
    f.mass = most(mass_, Kind::mass, "kg");
    filter_ = f;
    emit changed();
}

void FilterBar::clear() {
    for (QComboBox* box : {kind_, series_, frame_, brake_, volts_}) {
        const QSignalBlocker quiet(box);
        box->setCurrentIndex(0);
    }
    for (QLineEdit* edit : {words_, price_, mass_}) {
        const QSignalBlocker quiet(edit);
        edit->clear();
    }
    read();
}

} // namespace fulmox::app
