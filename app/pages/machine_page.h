// The machine as a whole: name, notes, site, currency, and its axes side by side.
#pragma once

#include "app/pages/page.h"

class QTableWidget;

namespace fulmox::app {

class MachinePage : public Page {
    Q_OBJECT

  public:
    static constexpr const char* question = QT_TR_NOOP("The machine");

    explicit MachinePage(Document& document, QWidget* parent = nullptr);
    void refresh() override;

  signals:
    void axis_chosen(int axis);
    void policies_requested();
    void materials_requested();

  protected:
    QString sentence() const override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void fill();

    QTableWidget* axes_;
};

} // namespace fulmox::app
