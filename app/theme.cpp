#include "app/theme.h"
#include "app/words.h"

#include <QApplication>
#include <QFontDatabase>
#include <QLabel>
#include <QPalette>
#include <QPointer>
#include <QProxyStyle>
#include <QStyleFactory>
#include <QWidget>
#include <mutex>
#include <unordered_set>
#include <vector>

// Resources in a static library are only linked in when asked for, and only outside a namespace.
static void init_resources() { Q_INIT_RESOURCE(fulmox); }

namespace fulmox::app {

namespace {

Theme light() {
    Theme t;
    t.paper = "#F5F4F0";
    t.panel = "#FFFFFF";
    t.rail = "#ECEAE3";
    t.line = "#D8D5CB";
    t.ink = "#1F2A30";
    t.second = "#56646C";
    t.third = "#8A949A";
    t.accent = "#1B5E7D";
    t.accent_ground = "#E3EEF2";
    t.accent_ink = "#FFFFFF";
    t.warn_ground = "#FAEBD2";
    t.bad_ground = "#F7DFE9";
    t.fits = "#2A7F79";
    t.tight = "#9A6005";
    t.over = "#A32857";
    t.unknown = "#6C777D";
    t.cause[0] = "#35618F";
    t.cause[1] = "#7FA3C7";
    t.cause[2] = "#C9A25B";
    t.cause[3] = "#A4663F";
    t.cause[4] = "#8C5F8F";
    t.cause[5] = "#4E9A86";
    return t;
}

Theme dark_theme() {
    Theme t;
    t.dark = true;
    t.paper = "#16191B";
    t.panel = "#1F2427";
    t.rail = "#121517";
    t.line = "#3A4247";
    t.ink = "#E8ECEE";
    t.second = "#A9B5BB";
    t.third = "#7D898F";
    t.accent = "#7FBEDD";
    t.accent_ground = "#233A46";
    t.accent_ink = "#0F1B21";
    t.warn_ground = "#3F3117";
    t.bad_ground = "#44202F";
    t.fits = "#58BDB4";
    t.tight = "#E5AE55";
    t.over = "#EE7FAB";
    t.unknown = "#95A0A6";
    t.cause[0] = "#5C92CC";
    t.cause[1] = "#A9C7E6";
    t.cause[2] = "#D9B672";
    t.cause[3] = "#D08F6A";
    t.cause[4] = "#B98ABC";
    t.cause[5] = "#6FC2AC";
    return t;
}

Theme current = light();

QString sheet(const Theme& t) {
    QString s = R"(
QPushButton, QToolButton, QCheckBox, QRadioButton, QTabBar, QListWidget, QTableView { outline: none; }
QMainWindow, #paper { background: @paper; }
#rail { background: @rail; }
#topbar { background: @panel; border-bottom: 1px solid @line; }
#ledger { background: @panel; border-left: 1px solid @line; }
#card { background: @panel; border: 1px solid @line; border-radius: 8px; }
#card[current="true"] { border: 2px solid @accent; }
#second { color: @second; }
#problem { color: @over; }
#done { background: @ink; color: @panel; border-radius: 6px; padding: 6px 14px; }
#banner { background: @warn; border-bottom: 1px solid @line; }
QScrollArea, #clear { background: transparent; border: none; }
QLineEdit, QComboBox, QPlainTextEdit { background: @panel; border: 1px solid @line; border-radius: 5px; padding: 2px 6px; min-height: 19px; selection-background-color: @accent; selection-color: @aink; }
QLineEdit:focus, QComboBox:focus, QPlainTextEdit:focus { border: 2px solid @accent; padding: 1px 5px; }
QLineEdit[wrong="true"] { border: 2px solid @over; padding: 1px 5px; background: @bad; }
QLineEdit:read-only { color: @second; }
QLineEdit:disabled, QComboBox:disabled { color: @third; }
QComboBox::drop-down { border: none; width: 16px; }
QComboBox::down-arrow { image: none; width: 9px; height: 9px; }
QComboBox QAbstractItemView { background: @panel; border: 1px solid @line; selection-background-color: @aground; selection-color: @ink; }
QPushButton { background: @panel; border: 1px solid @line; border-radius: 6px; padding: 3px 10px; min-height: 19px; }
QPushButton:hover { background: @aground; }
QPushButton:focus { border: 2px solid @accent; padding: 2px 9px; }
QPushButton:disabled { color: @third; }
QPushButton#link { border: none; background: transparent; color: @accent; padding: 2px 2px; text-align: left; }
QPushButton#link:hover { text-decoration: underline; }
QPushButton#link:focus { border: 1px solid @accent; border-radius: 4px; padding: 1px 1px; }
QPushButton#primary { background: @accent; color: @aink; border-color: @accent; }
QPushButton#primary:disabled { background: @line; color: @second; border-color: @line; }
QToolButton { border: 1px solid transparent; border-radius: 4px; color: @second; padding: 1px 4px; background: transparent; }
QToolButton:hover, QToolButton:focus { border-color: @accent; color: @accent; }
QToolButton::menu-indicator { image: none; }
QCheckBox { spacing: 6px; }
QCheckBox::indicator { width: 13px; height: 13px; border: 1px solid @second; border-radius: 3px; background: @panel; }
QCheckBox::indicator:checked { background: @accent; border-color: @accent; image: url(:/icons/check-@mode.png); }
QCheckBox::indicator:focus { border: 2px solid @accent; }
QRadioButton { spacing: 6px; }
QRadioButton::indicator { width: 11px; height: 11px; border: 1px solid @second; border-radius: 6px; background: @panel; }
QRadioButton::indicator:checked { width: 5px; height: 5px; border: 4px solid @accent; border-radius: 6px; background: @panel; }
QRadioButton:focus { color: @accent; }
QMenuBar { background: transparent; spacing: 2px; }
QMenuBar::item { padding: 4px 8px; border-radius: 4px; background: transparent; }
QMenuBar::item:selected { background: @aground; }
QMenu { background: @panel; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 4px 22px 4px 18px; border-radius: 4px; }
QMenu::item:selected { background: @aground; }
QMenu::item:disabled { color: @third; }
QMenu::separator { height: 1px; background: @line; margin: 4px 6px; }
QToolTip { background: @panel; color: @ink; border: 1px solid @line; padding: 4px; }
QTableView { background: @panel; border: none; gridline-color: transparent; selection-background-color: @aground; selection-color: @ink; alternate-background-color: @paper; }
QTableView:focus { border: 1px solid @accent; }
QTableView#segments { border: 1px solid @line; border-radius: 6px; }
QTableView#segments:focus { border: 1px solid @accent; }
QHeaderView { background: @panel; }
QHeaderView::section { background: @panel; color: @second; border: none; border-bottom: 1px solid @line; padding: 3px 6px; }
QHeaderView::up-arrow, QHeaderView::down-arrow { subcontrol-position: center left; left: 4px; width: 9px; height: 9px; }
QHeaderView::down-arrow { image: url(:/icons/down-@mode.png); }
QHeaderView::up-arrow { image: url(:/icons/up-@mode.png); }
QListWidget { background: @panel; border: 1px solid @line; border-radius: 6px; }
QListWidget:focus { border: 1px solid @accent; }
QListWidget::item { padding: 4px 6px; border-radius: 4px; }
QListWidget::item:selected { background: @aground; color: @ink; }
QTabWidget::pane { border: none; }
QTabBar::tab { background: transparent; color: @second; padding: 4px 10px; border: none; border-bottom: 2px solid transparent; }
QTabBar::tab:selected { color: @ink; border-bottom-color: @accent; }
QTabBar::tab:focus { color: @accent; }
QScrollBar:vertical { background: transparent; width: 9px; margin: 0; }
QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 24px; }
QScrollBar::handle:vertical:hover { background: @third; }
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page { background: transparent; height: 0; width: 0; }
QScrollBar:horizontal { background: transparent; height: 9px; }
QScrollBar::handle:horizontal { background: @line; border-radius: 4px; min-width: 24px; }
QSplitter::handle { background: @line; }
#drop-mark { background: @accent; }
)";
    const std::pair<const char*, QString> names[] = {{"@aground", t.accent_ground.name()},
        {"@aink", t.accent_ink.name()}, {"@accent", t.accent.name()}, {"@paper", t.paper.name()},
        {"@panel", t.panel.name()}, {"@rail", t.rail.name()}, {"@line", t.line.name()}, {"@ink", t.ink.name()},
        {"@second", t.second.name()}, {"@third", t.third.name()}, {"@over", t.over.name()},
        {"@warn", t.warn_ground.name()}, {"@bad", t.bad_ground.name()}, {"@mode", t.dark ? "dark" : "light"}};
    for (const auto& [key, value] : names) s.replace(QLatin1String(key), value);
    return s;
}

} // namespace

QColor Theme::state(LimitState s) const {
    switch (s) {
    case LimitState::fits:
        return fits;
    case LimitState::tight:
        return tight;
    case LimitState::over:
        return over;
    case LimitState::cannot_say:
        return unknown;
    }
    return unknown;
}

const Theme& theme() { return current; }

OnPaper::OnPaper() : before_(current) { current = light(); }
OnPaper::~OnPaper() { current = before_; }

namespace {

// The menu bar asks for the icon of its overflow button, and finding one loads every image plugin before the first
// picture; the menus stand in full at every size the window allows.
class Style : public QProxyStyle {
  public:
    Style() : QProxyStyle(QStyleFactory::create(QStringLiteral("Fusion"))) {}
    QIcon standardIcon(StandardPixmap icon, const QStyleOption* option, const QWidget* widget) const override {
        return icon == SP_ToolBarHorizontalExtensionButton ? QIcon() : QProxyStyle::standardIcon(icon, option, widget);
    }
    // Names come from files of others: a label obeys no markup unless it asks for it.
    void polish(QWidget* widget) override {
        if (auto* label = qobject_cast<QLabel*>(widget);
            label && label->textFormat() == Qt::AutoText && !label->inherits("QTipLabel"))
            label->setTextFormat(Qt::PlainText);
        QProxyStyle::polish(widget);
    }
    using QProxyStyle::polish;
};

std::once_flag resources;

bool load_font(const char* file) {
    return QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Inter-%1.otf").arg(QLatin1String(file))) >= 0;
}

} // namespace

QString plain_tip(const QString& text) {
    if (!Qt::mightBeRichText(text)) return shown(text);
    return QStringLiteral("<span style='white-space:pre-wrap'>%1</span>").arg(shown(text).toHtmlEscaped());
}

QString plain_label(const QString& text) { return shown(text).replace(QLatin1Char('&'), QLatin1String("&&")); }

void need_resources() { std::call_once(resources, init_resources); }

bool load_fonts() {
    need_resources();
    const bool regular = load_font("Regular");
    return load_font("SemiBold") && regular;
}

bool load_remaining_fonts() {
    const bool medium = load_font("Medium");
    return load_font("Italic") && medium;
}

QFont type_face(double pixels, Weight weight) {
    QFont f(QStringLiteral("Inter"));
    // Latin, Greek and signs need no shaping, and it was a third of the time to the first picture
    f.setStyleStrategy(QFont::PreferNoShaping);
    f.setPixelSize(static_cast<int>(pixels + 0.5));
    f.setWeight(weight == Weight::regular ? QFont::Normal : weight == Weight::medium ? QFont::Medium : QFont::DemiBold);
    return f;
}

namespace {

// A style sheet costs each widget that has been shown, also on pages and tabs that are hidden now: with all pages built
// that is seconds. So only what can be seen changes with the theme; the rest forgets its style and gets it when shown.
class StyleWhenShown : public QObject {
  public:
    using QObject::QObject;
    void forget_hidden() {
        for (QWidget* w : QApplication::allWidgets()) {
            if (w->isVisible() || !w->testAttribute(Qt::WA_WState_Polished)) continue;
            w->style()->unpolish(w);
            w->setAttribute(Qt::WA_WState_Polished, false);
            waiting_.insert(w);
        }
    }
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() != QEvent::Show || waiting_.empty() || !watched->isWidgetType()) return false;
        // inner widgets are shown first: the outermost that waits is asked for with all of its own
        auto* outer = static_cast<QWidget*>(watched);
        while (!outer->isWindow() && outer->parentWidget() && waiting_.contains(outer->parentWidget()))
            outer = outer->parentWidget();
        std::vector<QWidget*> shown;
        take(outer, shown);
        for (QWidget* w : shown) {
            w->style()->polish(w);
            w->setAttribute(Qt::WA_WState_Polished);
        }
        // inner ones first: a table asks its header how large it is
        for (auto w = shown.rbegin(); w != shown.rend(); ++w) {
            QEvent changed(QEvent::StyleChange);
            QCoreApplication::sendEvent(*w, &changed);
        }
        return false;
    }

  private:
    // The widget and what is shown with it.
    void take(QWidget* w, std::vector<QWidget*>& shown) {
        if (waiting_.erase(w) == 0) return;
        shown.push_back(w);
        for (QObject* child : w->children())
            if (auto* each = qobject_cast<QWidget*>(child); each && !each->isHidden() && !each->isWindow())
                take(each, shown);
    }
    std::unordered_set<const QWidget*> waiting_; // only compared: some may be gone
};

QPalette palette_of(const Theme& t) {
    QPalette p;
    p.setColor(QPalette::Window, t.paper);
    p.setColor(QPalette::WindowText, t.ink);
    p.setColor(QPalette::Base, t.panel);
    p.setColor(QPalette::AlternateBase, t.paper);
    p.setColor(QPalette::Text, t.ink);
    p.setColor(QPalette::Button, t.panel);
    p.setColor(QPalette::ButtonText, t.ink);
    p.setColor(QPalette::ToolTipBase, t.panel);
    p.setColor(QPalette::ToolTipText, t.ink);
    p.setColor(QPalette::Highlight, t.accent);
    p.setColor(QPalette::HighlightedText, t.accent_ink);
    p.setColor(QPalette::PlaceholderText, t.second);
    p.setColor(QPalette::Link, t.accent);
    return p;
}

} // namespace

void prepare_theme(QApplication& application, bool dark) {
    current = dark ? dark_theme() : light();
    application.setStyle(new Style);
    application.setFont(type_face(13));
    application.setPalette(palette_of(current));
}

void apply_style_sheet(QApplication& application) { application.setStyleSheet(sheet(current)); }

void apply_theme(QApplication& application, bool dark) {
    if (application.styleSheet().isEmpty()) {
        prepare_theme(application, dark);
        apply_style_sheet(application);
        return;
    }
    static QPointer<StyleWhenShown> later;
    if (!later) {
        later = new StyleWhenShown(&application);
        application.installEventFilter(later);
    }
    current = dark ? dark_theme() : light();
    later->forget_hidden();
    application.setStyleSheet({}); // a sheet that follows another goes through all widgets, hidden ones too
    application.setPalette(palette_of(current));
    apply_style_sheet(application);
    for (QWidget* w : QApplication::allWidgets())
        if (w->isVisible()) w->update();
}

} // namespace fulmox::app
