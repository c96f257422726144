// The plan of a screw with its ends: the drawing to scale, what does not go together, and the fields.
#pragma once

#include "app/live.h"
#include "core/drivetrain/screw_layout.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace fulmox::app {

/// The drawing alone.
class ScrewPicture : public QWidget {
    Q_OBJECT

  public:
    explicit ScrewPicture(QWidget* parent = nullptr);
    void show_drawing(Drawing drawing);
    QSize sizeHint() const override { return {600, 240}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Drawing drawing_;
};

class ScrewView : public LiveWidget {
    Q_OBJECT

  public:
    explicit ScrewView(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    const ScrewLayout& layout_now() const { return layout_; }
    /// By the ending, .svg or .dxf. Empty, or why it could not.
    QString export_to(const QString& file) const;

  private:
    ScrewLayout layout_;
    Drawing drawing_;
    ScrewPicture* picture_;
    QLabel *sums_, *warnings_;
    QPushButton* export_;
};

} // namespace fulmox::app
