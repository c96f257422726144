// Page 2: how must it move?
#pragma once

#include "app/pages/law_table.h"
#include "app/pages/page.h"
#include "app/plots/cycle_plot.h"
#include "app/widgets/figures.h"

#include <QListWidget>

namespace fulmox::app {

class HowMoves : public Page {
    Q_OBJECT

  public:
    explicit HowMoves(Document& document, QWidget* parent = nullptr);
    void activate() override;
    bool go_to(const QString& path) override;
    /// Adds a recorded motion after the selected segment; what is wrong with the file is shown on the page.
    void import_trace(const QString& file);
    /// Writes the planned motion every millisecond.
    void export_motion(QString file);

  protected:
    QString sentence() const override;

  private:
    void refresh_list();
    void select(int segment);
    void edit_segments(const QString& name, const std::function<void(std::vector<Segment>&)>& change, int then_select);
    int current() const { return list_->currentRow(); }

    void say(const QString& text);

    QLabel* said_;
    QLabel* trace_note_;
    LawTable* laws_;
    QListWidget* list_;
    Form* form_;
    CyclePlot* plot_;
};

/// "up 400 mm in 0.9 s", "dwell 0.6 s, then 26 kg"
QString segment_sentence(const Segment& s);

} // namespace fulmox::app
