// Page 4: what can drive it?
#pragma once

#include "app/pages/page.h"
#include "app/plots/speed_torque_plot.h"
#include "app/widgets/motor_filter.h"
#include "app/widgets/motor_table.h"
#include "app/widgets/part_cards.h"

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
    static constexpr const char* question = "What can drive it?";
    static constexpr const char* brief = QT_TR_NOOP("Motor"); ///< where the outline is folded
    explicit WhatDrives(Document& document, QWidget* parent = nullptr);
    void activate() override;
    QSize least() const override;
    bool go_to(const QString& path) override;
    /// Takes the curves of a file; rows that cannot be read are named over the datasheet.
    void read_curves(const QString& file);

  protected:
    QString sentence() const override;

  private:
    void refresh_card();
    struct Tab {
        QWidget* page;
        QHBoxLayout* line;
        HelpStrip* help;
    };
    Tab scrolling_tab(int spacing);
    QWidget* of_catalogue();
    QWidget* by_hand();
    QWidget* of_drive();
    QWidget* of_part(const QStringList& places, std::initializer_list<const char*> rooms);
    QWidget* of_gearheads();
    void add_shelves();
    void import_list(const char* kind);
    void show_card();
    int add_tab(QWidget* page, const QString& name, CardOf card, const QString& tip = {});
    QWidget* of_heat();
    QWidget* sheet_tools();
    void curves_from_ratings();
    void curve_from_file();
    void make_own();
    void say_count();

    static constexpr int catalogue_tab = 0, datasheet_tab = 1, drive_tab = 3, compare_tab = 5, picture_tab = 8;

    PartCards* cards_;
    bool arranging_ = false;
    QPushButton* map_button_ = nullptr;
    bool mapped_ = false; ///< the catalogue of motors is shown as a map
    std::vector<CardOf> card_of_tab_;
    std::map<CardOf, int> last_tab_; ///< of each card
    std::vector<QWidget*> of_motor_; ///< what only the motor's card shows above the tabs
    RatioPlot* ratio_ = nullptr;
    ShelfView* gearheads_ = nullptr;

    SpeedTorquePlot* plot_;
    CompareView* compare_;
    PictureView* off_picture_;
    MotorTable* table_;
    QTabWidget* tabs_;
    FilterBar* filter_;
    QPushButton* clear_;
    QLabel* said_; ///< of the tools over a datasheet
    QLabel* motor_facts_;
    QLabel* table_count_;
    QPushButton* use_;
    QPushButton* remove_;
};

} // namespace fulmox::app
