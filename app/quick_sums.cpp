#include "app/quick_sums.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/load/load_model.h"
#include "core/model/validate.h"
#include "core/quantity/format.h"

#include <QGridLayout>
#include <cmath>

namespace fulmox::app {

namespace {

std::optional<double> value(const QLineEdit* e, Kind kind, const char* bare) {
    const auto r = read_quantity(e->text().toStdString(), kind, *find_unit(bare, kind));
    return r && std::isfinite(r->si) ? std::optional(r->si) : std::nullopt;
}

} // namespace

QuickSums::QuickSums(Document& document, QWidget* parent) : QDialog(parent), document_(document) {
    setWindowTitle(tr("Quick sums"));
    setObjectName(QStringLiteral("quick-sums"));
    setModal(false);
    auto* grid = new QGridLayout(this);
    grid->setHorizontalSpacing(10);
    travel_ = field(tr("Travel per turn"), QStringLiteral("sum-travel"), grid, 0, 0);
    ratio_ = field(tr("Ratio"), QStringLiteral("sum-ratio"), grid, 0, 2);
    feed_ = field(tr("Feed of the load"), QStringLiteral("sum-feed"), grid, 1, 0);
    speed_ = field(tr("Motor speed"), QStringLiteral("sum-speed"), grid, 1, 2);
    time_ = field(tr("Time of a move"), QStringLiteral("sum-time"), grid, 2, 0);
    moves_ = field(tr("Moves per hour"), QStringLiteral("sum-moves"), grid, 2, 2);
    says_ = new QLabel(tr("Type on either side; the other follows. Any unit will do."));
    says_->setObjectName(QStringLiteral("second"));
    says_->setFont(type_face(12));
    grid->addWidget(says_, 3, 0, 1, 4);
    feed_->setText(QStringLiteral("2000 mm/min"));
    time_->setText(QStringLiteral("1.2 s"));
    for (QLineEdit* e : {travel_, ratio_}) connect(e, &QLineEdit::textEdited, this, [this] { compute(from_feed_); });
    connect(feed_, &QLineEdit::textEdited, this, [this] { compute(true); });
    connect(speed_, &QLineEdit::textEdited, this, [this] { compute(false); });
    connect(time_, &QLineEdit::textEdited, this, [this] { per_hour(true); });
    connect(moves_, &QLineEdit::textEdited, this, [this] { per_hour(false); });
}

QLineEdit* QuickSums::field(const QString& label, const QString& name, QGridLayout* grid, int row, int column) {
    auto* words = new QLabel(label);
    auto* e = new QLineEdit;
    e->setObjectName(name);
    e->setAccessibleName(label);
    e->setMinimumWidth(120);
    words->setBuddy(e);
    grid->addWidget(words, row, column);
    grid->addWidget(e, row, column + 1);
    return e;
}

void QuickSums::showEvent(QShowEvent* event) {
    take_axis();
    compute(true);
    per_hour(true);
    QDialog::showEvent(event);
}

void QuickSums::take_axis() {
    travel_->setText(QStringLiteral("20 mm"));
    ratio_->setText(QStringLiteral("1"));
    if (!document_.has_axis() || !document_.assessment().demand) return;
    const LoadModel& m = document_.assessment().demand->load;
    if (m.path != LoadModel::Path::straight || m.motion.rotary || m.motion.direct) return;
    travel_->setText(qs(format_quantity(2 * M_PI * m.radius, *find_unit("mm", Kind::length), 8)));
    ratio_->setText(qs(format_number(m.ratio, 8)));
}

void QuickSums::compute(bool from_feed) {
    from_feed_ = from_feed;
    const auto travel = value(travel_, Kind::length, "mm");
    const auto ratio = value(ratio_, Kind::number, "1");
    const auto feed = value(feed_, Kind::speed, "mm/min");
    const auto speed = value(speed_, Kind::angular_speed, "rpm");
    QLineEdit* target = from_feed ? speed_ : feed_;
    if (!travel || *travel == 0 || !ratio || *ratio == 0 || !(from_feed ? feed : speed)) {
        target->clear();
        says_->setText(
            tr("Something is missing or not a quantity: a travel such as 20 mm, a feed such as 2000 mm/min."));
        return;
    }
    const double per_radian = *travel / (2 * M_PI * *ratio);
    if (from_feed)
        speed_->setText(qs(format_quantity(*feed / per_radian, *find_unit("rpm", Kind::angular_speed), 6)));
    else
        feed_->setText(qs(format_quantity(*speed * per_radian, *find_unit("mm/min", Kind::speed), 6)));
    says_->setText(tr("feed = speed × travel per turn / ratio"));
}

void QuickSums::per_hour(bool from_time) {
    if (from_time) {
        const auto t = value(time_, Kind::time, "s");
        moves_->setText(t && *t > 0 ? qs(format_number(3600 / *t, 5)) : QString());
    } else {
        const auto n = value(moves_, Kind::number, "1");
        time_->setText(n && *n > 0 ? qs(format_quantity(3600 / *n, *find_unit("s", Kind::time), 5)) : QString());
    }
}

} // namespace fulmox::app
