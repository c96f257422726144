// Page 1: what moves?
#pragma once

#include "app/pages/page.h"

namespace fulmox::app {

class WhatMoves : public Page {
    Q_OBJECT

  public:
    explicit WhatMoves(Document& document, QWidget* parent = nullptr);

  protected:
    QString sentence() const override { return axis_sentence(document_); }
};

} // namespace fulmox::app
