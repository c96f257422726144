// The open project: a plain value, one undo stack, and its assessment.
#pragma once

#include "app/assessment_cache.h"
#include "app/drafts.h"
#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/model/walk.h"

#include <QObject>
#include <QString>
#include <QUndoStack>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

namespace fulmox::app {

/// What a field is called where its place is not seen: "Time, segment 2".
QString field_name(const std::string& label, const QString& path);

class Document;

/// "waits for: Distance, segment 2; Lead" of a figure or limit that is not known yet, or nothing.
QString waiting_for(Document& document, const char* key);
/// The first field it waits for, as a JSON pointer; empty: none.
QString waiting_path(Document& document, const char* key);

class Document : public QObject {
    Q_OBJECT

  public:
    explicit Document(QObject* parent = nullptr);

    const Machine& machine() const { return *machine_; }
    /// The machine as it is now, for work that goes on while it changes.
    std::shared_ptr<const Machine> snapshot() const { return machine_; }
    int axis_index() const { return axis_; }
    const Axis& axis() const { return machine_->axes.at(static_cast<std::size_t>(axis_)); }
    bool has_axis() const { return !machine_->axes.empty(); }
    QString axis_path() const { return QStringLiteral("/axes/%1").arg(axis_); }
    void select_axis(int index);
    /// The fields of the selected axis as they are now, to be read; walked once between two changes, whoever asks.
    struct AxisFields {
        Machine of;
        FieldRefs all;
    };
    std::shared_ptr<const AxisFields> axis_fields();

    /// Assessment of an axis as it is now; where it is pending, `changed` follows.
    const Assessment& assessment(int axis);
    const Assessment& assessment() { return assessment(axis_); }

    /// Sets a quantity from text; on bad text nothing changes and the problem is returned. Edits of the same field in a
    /// row merge into one undo step until end_typing().
    std::optional<Problem> set_quantity(const QString& path, const QString& text);
    /// The same for what somebody types: while it can be read it is tried out; bad text is kept as a draft, and the
    /// value from before the typing began is in force again, never what the first letters happened to mean.
    std::optional<Problem> type_quantity(const QString& path, const QString& text);
    void set_standing(const QString& path, InputSource standing);
    void set_text(const QString& path, const QString& text);
    void set_choice(const QString& path, int index);
    void set_flag(const QString& path, bool on);
    /// Any other edit, under the name shown in the undo menu. Edits with the same non-empty merge key in a row merge.
    void edit(const QString& name, const std::function<void(Machine&)>& change, const QString& merge = {});
    /// An edit by which an entry of a list comes, goes or moves.
    void edit_list(const QString& name, const ListChange& what, const std::function<void(Machine&)>& change);
    void end_typing();
    /// Takes these unknowns of the axis upon oneself, or no longer.
    void accept(const std::vector<Missing>& unknowns, bool on);

    /// Text that cannot be used and waits to be put right.
    const Drafts& drafts() const { return drafts_; }

    /// Keeps the present state as A, to be compared with what comes after.
    void pin();
    void unpin();
    bool pinned() const { return pinned_ != nullptr; }
    /// The selected axis as it was when it was pinned; nothing without a pin or without that axis. Pending, like that
    /// of the present state, where it takes long.
    const Assessment* pinned_assessment();
    const Axis* pinned_axis() const;
    /// Goes back to A, undoably; the pin stays.
    void take_pinned();

    QUndoStack& undo_stack() { return undo_; }

    QString file() const { return file_; }
    QString title() const;
    bool read_only() const { return read_only_; }
    QString read_only_reason() const { return read_only_reason_; }
    bool modified() const { return !undo_.isClean() || recovered_; }

    /// Replaces the project; clears undo. `file` empty: never saved.
    void open(ProjectRead project, const QString& file);
    /// A project with one empty axis.
    void start_new();
    /// As recovered work: shows as modified until saved.
    void recover(ProjectRead project, const QString& file);
    void saved_as(const QString& file);
    /// Takes in what another program wrote into the open file, undoably; what it replaces is one undo away.
    void take_from_disk(const Machine& machine);
    /// Reading only, for a reason that lies outside the file; and the way back.
    void make_read_only(const QString& why);
    void allow_editing();

  signals:
    void changed();        ///< the machine or the selection changed
    void status_changed(); ///< file, modified or read-only state changed
    void refused(const QString& why);
    void opened();         ///< another project took the place of the one before
    void drafts_changed(); ///< a draft was put right, or a field left with one

  private:
    friend class SnapshotCommand;
    using Snapshot = std::shared_ptr<const Machine>;
    void replace(Snapshot machine);
    bool writable();
    void push(
        const QString& name, const std::function<void(Machine&)>& change, const QString& merge, const ListChange& list);

    /// One stretch of typing into a field.
    struct Typing {
        QString path;
        int number = -1;
        QuantityBase before;
    };

    Snapshot machine_;
    std::shared_ptr<const AxisFields> walked_;
    std::pair<Snapshot, int> walked_at_; ///< machine and axis
    Typing typed_;
    Drafts drafts_;
    Snapshot pinned_;
    QUndoStack undo_;
    AssessmentCache assessments_{this};
    AssessmentCache pinned_assessments_{this};
    QString file_;
    QString read_only_reason_;
    int axis_ = 0;
    int typing_ = 0;
    bool read_only_ = false;
    bool recovered_ = false;
};

} // namespace fulmox::app
