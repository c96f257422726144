// Cells of a table whose text keeps as far from the borders as the text of the header does.
#pragma once

#include <QApplication>
#include <QPainter>
#include <QStyledItemDelegate>

namespace fulmox::app {

class PaddedDelegate : public QStyledItemDelegate {
  public:
    PaddedDelegate(int left, int right, QObject* parent) : QStyledItemDelegate(parent), left_(left), right_(right) {}
    /// Texts on the right are plain numbers, which never end in an ellipsis as words may.
    bool numbers = false;

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        QStyleOptionViewItem o = option;
        initStyleOption(&o, index);
        const QStyle* style = o.widget ? o.widget->style() : QApplication::style();
        style->drawPrimitive(QStyle::PE_PanelItemViewItem, &o, p, o.widget);
        const QRect room = o.rect.adjusted(left_, 0, -right_, 0);
        p->save();
        p->setFont(o.font);
        p->setPen(o.palette.color(QPalette::Text));
        const bool number = numbers && (o.displayAlignment & Qt::AlignRight);
        p->drawText(number ? o.rect.adjusted(0, 0, -right_, 0) : room, static_cast<int>(o.displayAlignment),
            number ? o.text : QFontMetrics(o.font).elidedText(o.text, Qt::ElideRight, room.width()));
        p->restore();
    }
    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        QStyleOptionViewItem o = option;
        initStyleOption(&o, index);
        return {QFontMetrics(o.font).horizontalAdvance(o.text) + left_ + right_ + 1,
            QStyledItemDelegate::sizeHint(option, index).height()};
    }

  private:
    int left_, right_;
};

} // namespace fulmox::app
