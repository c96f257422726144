// Page 3: what does it take?
#pragma once

#include "app/pages/page.h"
#include "app/pages/tab.h"

class QTabWidget;

namespace fulmox::app {

class WhatTakes : public Page {
    Q_OBJECT

  public:
    static constexpr const char* key = "demand";
    static constexpr const char* question = "What does it take?";
    static constexpr const char* brief = QT_TR_NOOP("Demand"); ///< where the outline is folded
    static const std::vector<TabEntry>& tabs();
    explicit WhatTakes(Document& document, QWidget* parent = nullptr);
    QSize least() const override { return {760, 720}; }

    bool show_tab(const QString& tab) override;

  protected:
    QString sentence() const override;

  private:
    QTabWidget* tabs_;
};

} // namespace fulmox::app
