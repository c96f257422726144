// Widgets that show the present state of the document.
#pragma once

#include "app/document.h"

#include <QEvent>
#include <QWidget>
#include <functional>
#include <utility>

namespace fulmox::app {

/// A widget that shows what the document is now: brought up to date at every change while it can be seen, else when it
/// is next shown.
template <class Base = QWidget> class Live : public Base {
  public:
    virtual void refresh() = 0;

  protected:
    template <class... Args>
    explicit Live(Document& document, Args&&... args) : Base(std::forward<Args>(args)...), document_(document) {
        QObject::connect(&document, &Document::changed, this, [this] {
            if (this->isVisible())
                follow();
            else
                stale_ = true;
        });
    }

    /// At a change while it can be seen. What takes long puts it off until the typing pauses.
    virtual void follow() { refresh(); }
    void showEvent(QShowEvent* event) override {
        if (std::exchange(stale_, false)) refresh();
        Base::showEvent(event);
    }
    bool stale() const { return stale_; }
    /// What it shows is not of the present any more.
    void set_stale() { stale_ = true; }

    Document& document_;

  private:
    bool stale_ = true;
};

using LiveWidget = Live<QWidget>;

/// The same for a label, a button or a list that needs no class of its own.
class KeptUpToDate : public QObject {
  public:
    KeptUpToDate(Document& document, QWidget* shown, std::function<void()> show)
        : QObject(shown), shown_(shown), show_(std::move(show)) {
        shown->installEventFilter(this);
        QObject::connect(&document, &Document::changed, this, [this] {
            if (shown_->isVisible())
                show_();
            else
                stale_ = true;
        });
    }

    bool eventFilter(QObject* object, QEvent* event) override {
        if (object == shown_ && event->type() == QEvent::Show && std::exchange(stale_, false)) show_();
        return QObject::eventFilter(object, event);
    }

  private:
    QWidget* shown_;
    std::function<void()> show_;
    bool stale_ = true;
};

inline void keep_up_to_date(Document& document, QWidget* shown, std::function<void()> show) {
    new KeptUpToDate(document, shown, std::move(show)); // lives as long as the widget
}

} // namespace fulmox::app
