// Colours, fonts and the style sheet: one calm look, light and dark.
#pragma once

#include "core/demand/demand.h"
#include "core/match/limit.h"

#include <QColor>
#include <QFont>
#include <QString>

class QApplication;

namespace fulmox::app {

struct Theme {
    bool dark = false;
    QColor paper, panel, rail, line, ink, second, third, accent, accent_ground, accent_ink, warn_ground, bad_ground;
    QColor fits, tight, over, unknown;
    QColor cause[cause_count];

    QColor state(LimitState s) const;
    QColor cause_colour(Cause c) const { return cause[static_cast<int>(c)]; }
};

const Theme& theme();

/// While it lives, what is painted by hand has the light colours: paper is white.
class OnPaper {
  public:
    OnPaper();
    ~OnPaper();
    OnPaper(const OnPaper&) = delete;
    OnPaper& operator=(const OnPaper&) = delete;

  private:
    Theme before_;
};

/// Applies the light or dark look to the whole application and tells every widget.
void apply_theme(QApplication& application, bool dark);

/// The same in two steps: colours and font first, the style sheet once the widgets are there. Building a window
/// under a style sheet polishes every subtree again at each change of parent, which is half of the time to start.
void prepare_theme(QApplication& application, bool dark);
void apply_style_sheet(QApplication& application);

/// Makes what is built into the program readable under ":/"; any number of times, from any thread.
void need_resources();

/// Loads the two weights the first picture needs, of the fonts that ship with the program; false if they are missing.
bool load_fonts();

/// Loads the others; the window does so once it has been painted.
bool load_remaining_fonts();

/// Text for a tooltip, whose markup is shown as it was written and not obeyed.
QString plain_tip(const QString& text);
/// Text for a button or a menu, in which "&" is no shortcut.
QString plain_label(const QString& text);

enum class Weight { regular, medium, strong };
QFont type_face(double pixels, Weight weight = Weight::regular);

} // namespace fulmox::app
