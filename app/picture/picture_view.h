// Curves of the datasheet read off a picture: marks that make a scale, points that become the motor's curve.
#pragma once

#include "app/clip.h"
#include "app/forms/form.h"
#include "app/live.h"
#include "app/picture/picture_canvas.h"
#include "app/picture/picture_file.h"
#include "core/motor/picture_reading.h"

#include <QWidget>

class QButtonGroup;
class QLabel;
class QMimeData;
class QProgressBar;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace fulmox::app {

class PictureView : public LiveWidget, public Copyable {
    Q_OBJECT

  public:
    explicit PictureView(Document& document, QWidget* parent = nullptr);

    /// Takes a picture from a file, in the background.
    void load(const QString& file);
    void paste();
    bool loading() const { return reading_.running() || showing_.running(); }
    QString said() const;
    PictureCanvas& canvas() { return *canvas_; }
    /// What the next click sets: 0 to 3 the marks, 4 and on a curve, −1 nothing.
    void aim(int target);
    int target() const { return target_; }
    /// Writes the curve that is picked into the motor.
    void take();
    bool go_to(const QString& path);
    Table as_table() const override;

  signals:
    void focused(const QString& path);

  protected:
    void showEvent(QShowEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    static constexpr int first_curve = 4;

    struct Taken {
        QByteArray bytes;
        Decoded decoded;
    };

    void refresh() override;
    void rebuild();
    void refresh_canvas();
    void say_state();
    void say_cursor();
    void take_in(const QString& name, std::function<Result<QByteArray, QString>()> read);
    bool take_from(const QMimeData* held);
    void say_progress();
    void come(Taken taken, const QString& name);
    void show_image();
    void open_file();
    void remove_picture();
    void add_curve();
    void remove_curve();
    void put(QPointF at, bool by_keys);
    void move(int curve, int index, QPointF at, bool by_keys);
    void erase(int curve, int index);
    void set_mark(int mark, QPointF at, const QString& merge);
    void next_target();
    void edit(const QString& name, const std::function<void(CurvePicture&)>& change, const QString& merge = {});
    const CurvePicture* picture() const;
    QString place() const; ///< path of the picture relative to the axis
    QString mark_path(int mark) const;

    int shown_ = 0; ///< which picture of the motor
    int target_ = -1;
    QString built_for_;
    QString complaint_; ///< about the last file or paste

    PictureCanvas* canvas_;
    QComboBox* pictures_;
    QPushButton* remove_;
    QWidget* column_;
    QVBoxLayout* tools_;
    Form* form_;
    Form* drawn_at_;
    QButtonGroup* aims_;
    std::vector<QuantityEdit*> values_;
    QPushButton* remove_curve_;
    QPushButton* take_;
    QLabel* state_;
    QLabel* reads_; ///< what lies under the cursor
    QProgressBar* progress_;
    QPushButton* cancel_;
    QTimer* pulse_;
    std::shared_ptr<const std::string> image_of_; ///< of which the canvas shows the pixels
    Background<Taken> reading_;                   ///< a picture that comes
    Background<Taken> showing_;                   ///< one that is there
};

} // namespace fulmox::app
