// One body of a composition: drawn to scale along its axis and from the side, with its mass, inertia and share.
#pragma once

#include "app/live.h"

#include <QWidget>
#include <functional>

namespace fulmox::app {

class BodyPicture : public LiveWidget {
    Q_OBJECT

  public:
    /// `which` gives the index of the body to show, −1 for none.
    BodyPicture(Document& document, std::function<int()> which, QWidget* parent = nullptr);
    /// What stands beside the drawing, line by line.
    QStringList words() const;
    static constexpr int words_left = 208; ///< px from the left where these begin

    void refresh() override { update(); }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    const Body* body() const;

    std::function<int()> which_;
};

} // namespace fulmox::app
