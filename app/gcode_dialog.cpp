#include "app/gcode_dialog.h"

#include "app/bricks/choice.h"
#include "app/regular_file.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QCoreApplication>
#include <QFile>
#include <QFileInfo>
#include <QGridLayout>
#include <QProgressDialog>
#include <cmath>

namespace fulmox::app {

namespace {

// Shown after 200 ms; cancelling it cancels the work.
class Progress {
  public:
    explicit Progress(QWidget* parent)
        : dialog_(QObject::tr("Reading and planning the program…"), QObject::tr("Cancel"), 0, 1000, parent) {
        dialog_.setWindowModality(Qt::WindowModal);
        dialog_.setMinimumDuration(200);
    }
    std::function<bool(double)> report() {
        return [this](double share) {
            dialog_.setValue(static_cast<int>(share * 1000));
            QCoreApplication::processEvents();
            return !dialog_.wasCanceled();
        };
    }

  private:
    QProgressDialog dialog_;
};

} // namespace

GcodeDialog::GcodeDialog(Document& document, GcodeProgram program, QString name, QWidget* parent)
    : QDialog(parent), document_(document), program_(std::move(program)), name_(std::move(name)) {
    setWindowTitle(tr("Import G-code"));
    setObjectName(QStringLiteral("gcode"));
    auto* box = new QVBoxLayout(this);
    auto* intro = new QLabel(tr("%1: %2 moves. Say which axis of the machine each letter moves, and how fast it may. "
                                "The cycle of each axis chosen is replaced; undo brings it back.")
                                 .arg(name_)
                                 .arg(program_.moves.size()));
    intro->setWordWrap(true);
    box->addWidget(intro);
    auto* grid = new QGridLayout;
    const QStringList heads{tr("Letter"), tr("Axis of the machine"), tr("Speed limit"), tr("Acceleration limit")};
    for (int c = 0; c < 4; ++c) grid->addWidget(new QLabel(heads[c]), 0, c);
    int line = 1;
    int suggested = document_.axis_index();
    const auto& axes = document_.machine().axes;
    for (int i = 0; i < gcode_axes; ++i) {
        if (!program_.uses[static_cast<std::size_t>(i)]) continue;
        Row& r = rows_[static_cast<std::size_t>(i)];
        const QString letter{QLatin1Char(gcode_letters[i])};
        const bool rotary = i >= 3;
        r.axis = new Choice;
        r.axis->setObjectName(QStringLiteral("gcode-axis-") + letter);
        r.axis->setAccessibleName(tr("Axis moved by %1").arg(letter));
        r.axis->addItem(tr("none"), -1);
        for (std::size_t k = 0; k < axes.size(); ++k)
            if (motion_of(axes[k].mechanism).rotary == rotary) r.axis->addItem(qs(axes[k].name), static_cast<int>(k));
        const int found = r.axis->findData(suggested);
        if (found > 0) {
            r.axis->setCurrentIndex(found);
            suggested = -2; // only the first letter is guessed
        }
        r.speed = new QLineEdit(rotary ? QStringLiteral("30 rpm") : QStringLiteral("500 mm/s"));
        r.acceleration = new QLineEdit(rotary ? QStringLiteral("20 rad/s²") : QStringLiteral("2 m/s²"));
        r.speed->setObjectName(QStringLiteral("gcode-speed-") + letter);
        r.acceleration->setObjectName(QStringLiteral("gcode-acceleration-") + letter);
        r.speed->setAccessibleName(tr("Speed limit of %1").arg(letter));
        r.acceleration->setAccessibleName(tr("Acceleration limit of %1").arg(letter));
        grid->addWidget(new QLabel(letter), line, 0);
        grid->addWidget(r.axis, line, 1);
        grid->addWidget(r.speed, line, 2);
        grid->addWidget(r.acceleration, line, 3);
        ++line;
    }
    grid->addWidget(new QLabel(tr("Corner deviation")), line, 0, 1, 2);
    deviation_ = new QLineEdit(QStringLiteral("0.02 mm"));
    deviation_->setAccessibleName(tr("Corner deviation"));
    deviation_->setToolTip(
        tr("Junction deviation: how far the path may leave a corner; it sets the speed through the corner."));
    grid->addWidget(deviation_, line, 2);
    box->addLayout(grid);
    says_ = new QLabel;
    says_->setObjectName(QStringLiteral("second"));
    says_->setWordWrap(true);
    QString skipped;
    for (std::size_t k = 0; k < std::min<std::size_t>(program_.skipped.size(), 8); ++k)
        skipped += (k ? tr(", ") : QString()) +
                   tr("line %1: %2").arg(program_.skipped[k].line).arg(qs(program_.skipped[k].message));
    if (program_.skipped.size() > 8) skipped += tr(", and %1 more").arg(program_.skipped.size() - 8);
    says_->setText(skipped.isEmpty() ? tr("Every word was understood.") : skipped);
    box->addWidget(says_);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    auto* cancel = new QPushButton(tr("Cancel"));
    auto* go = new QPushButton(tr("Plan and import"));
    go->setObjectName(QStringLiteral("primary"));
    go->setDefault(true);
    connect(cancel, &QPushButton::clicked, this, &QDialog::reject);
    connect(go, &QPushButton::clicked, this, &GcodeDialog::import);
    buttons->addWidget(cancel);
    buttons->addWidget(go);
    box->addLayout(buttons);
}

void GcodeDialog::import() {
    GcodeOptions options;
    const auto read = [&](QLineEdit* e, Kind kind, double& out) {
        const auto q = read_quantity(e->text().toStdString(), kind, si_unit(kind));
        const bool good = q && std::isfinite(q->si) && q->si > 0;
        if (good)
            out = q->si;
        else
            says_->setText(tr("%1: \"%2\" is refused; wanted is %3 greater than 0, with its unit")
                               .arg(e->accessibleName(), e->text(), qs(std::string(info(kind).name))));
        if (!good) e->setFocus();
        return good;
    };
    std::array<int, gcode_axes> target;
    target.fill(-1);
    bool any = false;
    for (std::size_t i = 0; i < gcode_axes; ++i) {
        if (!rows_[i].axis) continue;
        const bool rotary = i >= 3;
        if (!read(rows_[i].speed, motion_kind(Order::speed, rotary), options.limits[i].speed)) return;
        if (!read(rows_[i].acceleration, motion_kind(Order::acceleration, rotary), options.limits[i].acceleration))
            return;
        target[i] = rows_[i].axis->currentData().toInt();
        for (std::size_t k = 0; k < i; ++k)
            if (target[i] >= 0 && target[k] == target[i]) {
                says_->setText(tr("%1 and %2 cannot both move the same axis")
                                   .arg(QLatin1Char(gcode_letters[k]))
                                   .arg(QLatin1Char(gcode_letters[i])));
                return;
            }
        any = any || target[i] >= 0;
    }
    if (!any) {
        says_->setText(tr("Choose an axis of the machine for at least one letter."));
        return;
    }
    if (!read(deviation_, Kind::length, options.junction_deviation)) return;
    Progress progress(this);
    options.progress = progress.report();
    const auto plan = plan_gcode(program_, options);
    if (!plan) {
        says_->setText(qs(to_text(plan.error())));
        return;
    }
    document_.edit(tr("G-code %1").arg(name_), [&](Machine& m) {
        for (std::size_t i = 0; i < gcode_axes; ++i) {
            if (target[i] < 0) continue;
            Axis& axis = m.axes[static_cast<std::size_t>(target[i])];
            PlannedPath path;
            path.name = name_.toStdString() + ", " + gcode_letters[i];
            path.knots = plan->knots[i];
            Segment s;
            s.what = std::move(path);
            axis.cycle = Cycle{};
            axis.cycle.segments.push_back(std::move(s));
        }
    });
    accept();
}

QString import_gcode(Document& document, const QString& file, QWidget* parent) {
    const QFileInfo about(file);
    constexpr qint64 most = 64 << 20;
    const auto bytes = read_regular(file, most);
    if (!bytes) return bytes.error();
    const QByteArray& text = *bytes;
    std::optional<GcodeProgram> program;
    {
        Progress progress(parent);
        auto read =
            read_gcode(std::string_view(text.constData(), static_cast<std::size_t>(text.size())), progress.report());
        if (!read) return QObject::tr("%1, %2").arg(about.fileName(), qs(to_text(read.error())));
        program = std::move(*read);
    }
    auto* dialog = new GcodeDialog(document, std::move(*program), about.fileName(), parent);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
    return {};
}

} // namespace fulmox::app
