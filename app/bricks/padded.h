// Cells of a table whose text keeps as far from the borders as the text of the header does.
#pragma once

#include "app/theme.h"

#include <QAbstractItemView>
#include <QApplication>
#include <QHelpEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QToolTip>

namespace fulmox::app {

class PaddedDelegate : public QStyledItemDelegate {
  public:
    PaddedDelegate(int left, int right, QObject* parent) : QStyledItemDelegate(parent), left_(left), right_(right) {}
    /// Texts on the right are plain numbers: a pixel more than there is room for does them no harm.
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
        const bool number = numbers && (o.displayAlignment & Qt::AlignRight) &&
                            QFontMetrics(o.font).horizontalAdvance(o.text) <= room.width() + left_;
        // what is cut off says so, and loses its end: a number without its first digit would be another number
        p->drawText(number ? o.rect.adjusted(0, 0, -right_, 0) : room, static_cast<int>(o.displayAlignment),
            number ? o.text : QFontMetrics(o.font).elidedText(o.text, Qt::ElideRight, room.width()));
        p->restore();
    }
    /// The whole text of a cell that is cut off, where it has no tip of its own.
    bool helpEvent(QHelpEvent* event, QAbstractItemView* view, const QStyleOptionViewItem& option,
        const QModelIndex& index) override {
        if (event && event->type() == QEvent::ToolTip && !index.data(Qt::ToolTipRole).isValid() &&
            sizeHint(option, index).width() > option.rect.width()) {
            QToolTip::showText(event->globalPos(), plain_tip(index.data().toString()), view);
            return true;
        }
        return QStyledItemDelegate::helpEvent(event, view, option, index);
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
