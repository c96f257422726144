// Page 1: what moves?
#pragma once

#include "app/forms/list_editor.h"
#include "app/pages/page.h"
#include "app/sentence.h"

namespace fulmox::app {

class MechanismGallery;

class WhatMoves : public Page {
    Q_OBJECT

  public:
    static constexpr const char* key = "moves";
    static constexpr const char* question = "What moves?";
    static constexpr const char* brief = QT_TR_NOOP("Load"); ///< where the outline is folded
    explicit WhatMoves(Document& document, QWidget* parent = nullptr);

    void refresh() override;
    QSize least() const override { return {760, 648}; }
    void complete() override;
    bool go_to(const QString& path) override;

  protected:
    QString sentence() const override { return axis_sentence(document_); }

  private:
    void show_stages();

    Form* rest_;
    ListEditor* bodies_;
    ListEditor* stages_;
    MechanismGallery* gallery_ = nullptr;
};

} // namespace fulmox::app
