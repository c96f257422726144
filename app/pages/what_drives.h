// Page 4: what can drive it?
#pragma once

#include "app/pages/page.h"
#include "app/plots/speed_torque_plot.h"
#include "app/widgets/motor_filter.h"
#include "app/widgets/motor_table.h"

#include <QLabel>
#include <QPushButton>
#include <QTabWidget>

class QHBoxLayout;
class QFrame;

namespace fulmox::app {

class CompareView;
class PictureView;

class WhatDrives : public Page {
    Q_OBJECT

  public:
    static constexpr const char* question = "What can drive it?";
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
    QWidget* by_hand();
    QWidget* of_drive();
    QWidget* of_parts();
    QWidget* of_heat();
    QWidget* sheet_tools();
    void curves_from_ratings();
    void curve_from_file();
    void make_own();
    void say_count();

    static constexpr int compare_tab = 5, picture_tab = 8;

    SpeedTorquePlot* plot_;
    CompareView* compare_;
    PictureView* off_picture_;
    MotorTable* table_;
    QTabWidget* tabs_;
    FilterBar* filter_;
    QPushButton* clear_;
    QLabel* said_; ///< of the tools over a datasheet
    QLabel* motor_name_;
    QLabel* motor_facts_;
    QLabel* table_count_;
    QPushButton* use_;
    QPushButton* remove_;
};

} // namespace fulmox::app
