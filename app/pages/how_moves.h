// Page 2: how must it move?
#pragma once

#include "app/forms/segment_table.h"
#include "app/pages/law_table.h"
#include "app/pages/page.h"
#include "app/plots/cycle_plot.h"
#include "app/results/figures.h"

#include <functional>

class QPushButton;

namespace fulmox::app {

class HowMoves : public Page {
    Q_OBJECT

  public:
    static constexpr const char* key = "motion";
    static constexpr const char* question = "How must it move?";
    static constexpr const char* brief = QT_TR_NOOP("Motion"); ///< where the outline is folded
    explicit HowMoves(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    QSize least() const override { return {760, 640}; }
    bool go_to(const QString& path) override;
    /// Adds a recorded motion after the selected segment; what is wrong with the file is shown on the page.
    void import_trace(const QString& file);
    /// Takes a table of durations, speeds and torques in place of the cycle; rows that cannot be read are named.
    void import_demand(const QString& file);
    void take_demand(const QString& text, const QString& from);
    /// Writes the planned motion, a row for every `step` s.
    void export_motion(QString file, double step = 0.001);
    /// Asks before a file that the file dialog did not ask about is written over.
    std::function<bool(const QString& file)> confirm_overwrite;

  protected:
    QString sentence() const override;

  private:
    void ask_export();
    void refresh_list();
    void select(int segment);
    void edit_segments(const QString& name, int from, int to, const std::function<void(std::vector<Segment>&)>& change,
        int then_select);
    int current() const { return list_->selected(); }

    void say(const QString& text);
    void close_cycle();

    QPushButton* close_ = nullptr; ///< offers the way back where the cycle does not end where it began
    QLabel* said_;
    QPushButton *demand_, *gcode_;
    bool said_of_cell_ = false; ///< what is said goes with the text in the cell
    QLabel* trace_note_;
    LawTable* laws_;
    SegmentTable* list_;
    Form* form_;
    CyclePlot* plot_;
};

} // namespace fulmox::app
