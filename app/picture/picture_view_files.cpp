// How a picture comes into the view: from files, the clipboard, and out of the project.
#include "app/picture/picture_view.h"

#include <QBuffer>
#include <QClipboard>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QMimeData>
#include <QProgressBar>
#include <QPushButton>
#include <QTimer>

namespace fulmox::app {

namespace {

QString told_empty() {
    return PictureView::tr("A picture of the motor's curves, from its datasheet: load it, drop it here, or copy it "
                           "from the document it is in and press Ctrl+V. Two marks on each axis make the scale, then "
                           "points are clicked along the curve.");
}

} // namespace

void PictureView::show_image() {
    const CurvePicture* p = picture();
    if (!p || p->image.empty()) {
        image_of_.reset();
        canvas_->show_picture({}, {});
        canvas_->say(reading_.running() ? tr("The picture is being read.")
                     : !document_.has_axis() || document_.axis().motor.linear()
                         ? tr("Curves are read for motors that turn.")
                         : told_empty());
        return;
    }
    if (image_of_ == p->image.base64) return;
    image_of_ = p->image.base64;
    canvas_->show_picture({}, {});
    canvas_->say(tr("The picture is being read."));
    const Attachment image = p->image;
    showing_.run(
        this,
        [image](const StopToken& go_on) {
            Taken t;
            t.decoded = decode_picture(bytes_of(image), go_on);
            return t;
        },
        [this, image](Taken t) {
            const CurvePicture* now = picture();
            if (!now || now->image.base64 != image.base64) return;
            if (t.decoded.full.isNull()) {
                canvas_->say(tr("The picture kept in the project cannot be shown: %1.")
                                 .arg(t.decoded.wrong.isEmpty() ? tr("there is not enough memory") : t.decoded.wrong));
                return;
            }
            canvas_->show_picture(t.decoded.full, t.decoded.reduced);
            aim(target_);
            refresh_canvas();
        });
    say_progress();
}

void PictureView::say_progress() {
    if (!loading()) return;
    progress_->setValue(0);
    progress_->show();
    cancel_->show();
    pulse_->start();
}

void PictureView::take_in(const QString& name, std::function<Result<QByteArray, QString>()> read) {
    if (!document_.has_axis() || document_.axis().motor.linear()) return;
    if (document_.axis().motor.pictures.size() >= Motor::most_pictures) {
        complaint_ = tr("a motor keeps at most %1 pictures; remove one first").arg(Motor::most_pictures);
        return refresh();
    }
    complaint_.clear();
    reading_.run(
        this,
        [read = std::move(read)](const StopToken& go_on) {
            Taken t;
            auto bytes = read();
            if (!bytes) {
                t.decoded.wrong = bytes.error();
                return t;
            }
            t.bytes = std::move(*bytes);
            t.decoded = decode_picture(t.bytes, go_on);
            return t;
        },
        [this, name, path = document_.axis_path()](Taken t) {
            if (path != document_.axis_path()) { // the axis was left meanwhile
                complaint_ = tr("%1 was not taken: another axis was chosen meanwhile").arg(name);
                return refresh();
            }
            come(std::move(t), name);
        });
    if (reading_.running()) canvas_->say(tr("The picture is being read."));
    say_progress();
}

void PictureView::come(Taken t, const QString& name) {
    if (t.decoded.full.isNull()) {
        const QString why = t.decoded.wrong.isEmpty() ? tr("there is not enough memory") : t.decoded.wrong;
        complaint_ = why.startsWith(name) ? why : tr("%1 is not taken: %2").arg(name, why);
        return refresh();
    }
    CurvePicture made;
    made.name = name.toStdString();
    made.image = attach(t.bytes);
    made.curves.emplace_back();
    const auto at = document_.axis().motor.pictures.size();
    image_of_ = made.image.base64;
    canvas_->show_picture(t.decoded.full, t.decoded.reduced);
    shown_ = static_cast<int>(at);
    target_ = -1;
    document_.edit_list(tr("picture of the curves"),
        {document_.axis_path() + QStringLiteral("/motor/pictures"), -1, static_cast<int>(at)},
        [&](Machine& m) { m.axes[static_cast<std::size_t>(document_.axis_index())].motor.pictures.push_back(made); });
    built_for_.clear();
    refresh();
    canvas_->setFocus();
}

void PictureView::load(const QString& file) {
    take_in(QFileInfo(file).fileName(), [file] { return read_picture_file(file); });
}

void PictureView::open_file() {
    const QString file = QFileDialog::getOpenFileName(this, tr("Picture of the curves"), QString(),
        tr("Pictures (*.png *.jpg *.jpeg *.bmp *.gif);;All files (*)"), nullptr, QFileDialog::DontUseNativeDialog);
    if (!file.isEmpty()) load(file);
}

bool PictureView::take_from(const QMimeData* held) {
    if (held && held->hasUrls() && held->urls().front().isLocalFile()) {
        load(held->urls().front().toLocalFile());
        return true;
    }
    if (!held || !held->hasImage()) return false;
    const QImage image = qvariant_cast<QImage>(held->imageData());
    take_in(tr("pasted picture"), [image]() -> Result<QByteArray, QString> {
        using Out = Result<QByteArray, QString>;
        QByteArray bytes;
        QBuffer out(&bytes);
        out.open(QIODevice::WriteOnly);
        if (!image.save(&out, "PNG")) return Out::failure(tr("it cannot be written as PNG"));
        if (bytes.size() > static_cast<qsizetype>(CurvePicture::largest))
            return Out::failure(tr("it has %1 MB as PNG; at most %2 MB are kept")
                                    .arg(bytes.size() >> 20)
                                    .arg(CurvePicture::largest >> 20));
        return bytes;
    });
    return true;
}

void PictureView::paste() {
    if (take_from(QGuiApplication::clipboard()->mimeData())) return;
    complaint_ = tr("the clipboard holds no picture");
    refresh();
}

void PictureView::dragEnterEvent(QDragEnterEvent* e) {
    if (e->mimeData()->hasUrls() || e->mimeData()->hasImage()) e->acceptProposedAction();
}

void PictureView::dropEvent(QDropEvent* e) {
    if (take_from(e->mimeData())) e->acceptProposedAction();
}

void PictureView::keyPressEvent(QKeyEvent* e) {
    if (e->matches(QKeySequence::Paste)) return paste();
    QWidget::keyPressEvent(e);
}

} // namespace fulmox::app
