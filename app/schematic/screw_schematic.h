// The screw axis drawn from its numbers; every dimension leads to its field.
#pragma once

#include "app/document.h"

#include <QWidget>
#include <vector>

namespace fulmox::app {

class ScrewSchematic : public QWidget {
    Q_OBJECT

  public:
    explicit ScrewSchematic(Document& document, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {360, 330}; }
    QSize minimumSizeHint() const override { return {270, 220}; }

  signals:
    void go_to(const QString& path);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    struct Hit {
        QRectF box;
        QString path;
    };
    Document& document_;
    std::vector<Hit> hits_;
};

} // namespace fulmox::app
