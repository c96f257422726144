// Page 4: what can drive it?
#pragma once

#include "app/pages/page.h"
#include "app/pages/tab.h"
#include "app/parts/motor_filter.h"
#include "app/parts/motor_table.h"
#include "app/parts/part_cards.h"
#include "app/plots/speed_torque_plot.h"

#include <QLabel>
#include <QPushButton>
#include <QTabWidget>
#include <map>
#include <vector>

class QHBoxLayout;
class QFrame;

namespace fulmox::app {

class CompareView;
class PictureView;
class RatioPlot;
class ShelfView;

class WhatDrives : public Page {
    Q_OBJECT

  public:
    static constexpr const char* key = "parts";
    static constexpr const char* question = "What can drive it?";
    static constexpr const char* brief = QT_TR_NOOP("Motor"); ///< where the outline is folded
    static const std::vector<TabEntry>& tabs();
    explicit WhatDrives(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    QSize least() const override;
    bool go_to(const QString& path) override;
    void begin() override;
    bool search() override;
    bool show_tab(const QString& tab) override;
    /// Takes the curves of a file; rows that cannot be read are named over the datasheet.
    void read_curves(const QString& file);

  protected:
    QString sentence() const override;

    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    /// A tab and what makes its contents, which it does when it first comes to the front.
    struct Maker {
        TabEntry entry;
        QWidget* (WhatDrives::*make)();
    };
    static const std::vector<Maker>& makers();
    const TabEntry& entry() const;
    bool in_front(const char* tab) const { return QLatin1String(entry().key) == QLatin1String(tab); }
    void make(int tab);
    bool folds() const;
    void fold(bool on);
    struct Fields {
        QWidget* page;
        QHBoxLayout* line;
        HelpStrip* help;
    };
    Fields scrolling_tab(int spacing);
    QWidget* of_catalogue();
    QWidget* by_hand();
    QWidget* of_drive();
    QWidget* of_part(const QStringList& places, std::initializer_list<const char*> rooms);
    QWidget* of_gearheads();
    QWidget* of_shelf(const char* kind);
    QWidget* of_couplings() { return of_shelf("coupling"); }
    QWidget* of_brakes() { return of_shelf("brake"); }
    QWidget* of_drives() { return of_shelf("drive"); }
    QWidget* of_supplies() { return of_shelf("supply"); }
    QWidget* of_check();
    QWidget* of_windings();
    QWidget* of_compare();
    QWidget* of_kind();
    QWidget* of_picture();
    QWidget* of_coupling();
    QWidget* of_brake();
    QWidget* of_screw();
    QWidget* of_precision();
    void import_list(const char* kind);
    void show_card();
    QWidget* of_heat();
    QWidget* sheet_tools();
    void curves_from_ratings();
    void curve_from_file();
    void make_own();
    void refresh_card();
    void say_count();

    PartCards* cards_;
    bool arranging_ = false;
    QPushButton* map_button_ = nullptr;
    bool mapped_ = false;            ///< the catalogue of motors is shown as a map
    std::vector<bool> made_;         ///< of each tab
    std::map<CardOf, int> last_tab_; ///< of each card
    QWidget* facts_ = nullptr;       ///< what the motor is, and what folds its pictures
    QWidget* pictures_ = nullptr;    ///< its curve and the inertia it moves
    QPushButton* fold_ = nullptr;
    std::map<bool, bool> folded_; ///< as somebody wants it: over the catalogue, and over the other tabs
    QLabel* curve_heading_ = nullptr;
    RatioPlot* ratio_ = nullptr;
    ShelfView* gearheads_ = nullptr;

    SpeedTorquePlot* plot_;
    CompareView* compare_ = nullptr;
    PictureView* off_picture_ = nullptr;
    MotorTable* table_;
    QTabWidget* tabs_;
    FilterBar* filter_;
    QPushButton* clear_;
    QLabel* said_ = nullptr; ///< of the tools over a datasheet
    QLabel* motor_facts_;
    QLabel* table_count_;
    QPushButton* use_;
    QPushButton* remove_;
};

} // namespace fulmox::app
