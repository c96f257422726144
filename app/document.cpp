#include "app/document.h"
#include "app/words.h"

#include "core/match/bounds.h"
#include "core/model/part.h"
#include "core/model/usual.h"

#include <QFileInfo>
#include <QUndoCommand>

namespace fulmox::app {

QString field_name(const std::string& label, const QString& path) {
    return qs(field_and_place(label, path.toStdString()));
}

QString waiting_for(Document& document, const char* key) {
    if (!document.has_axis()) return QObject::tr("No axis yet: add one in the outline.");
    const Assessment& a = document.assessment();
    if (a.pending) return QObject::tr("being calculated…");
    if (const Figure* f = a.figure(key); f && f->waits) return qs(f->note.in(document.machine().unit_system));
    if (const Limit* l = a.limit(key); l && l->state == LimitState::cannot_say)
        return qs(l->reason.in(document.machine().unit_system));
    for (const Problem& p : a.problems) // where nothing at all could be calculated
        if (p.severity == Severity::error && a.figures.empty()) return qs(p.message);
    return {};
}

QString waiting_path(Document& document, const char* key) {
    if (!document.has_axis() || document.assessment().pending) return {};
    const Assessment& a = document.assessment();
    const Figure* f = a.figure(key);
    const Limit* l = f ? nullptr : a.limit(key);
    const std::vector<Missing>* fields = f ? &f->waits_for : l ? &l->waits_for : nullptr;
    if (fields && !fields->empty()) return qs(fields->front().path);
    for (const Problem& p : a.problems)
        if (p.severity == Severity::error && a.figures.empty()) return qs(p.path);
    return {};
}

namespace {

// A part of which something has been said stays in place until it is removed.
void settle(Machine& now, const Machine& before) {
    for (std::size_t i = 0; i < now.axes.size(); ++i) {
        const Axis& is = std::as_const(now.axes)[i];
        if (i < before.axes.size() && &is == &before.axes[i]) continue; // shared: unchanged
        if (is.coupling.there() != is.coupling.in_place || is.brake.there() != is.brake.in_place ||
            is.has_drive() != is.drive.in_place)
            stay_in_place(now.axes[i]);
    }
}

} // namespace

class SnapshotCommand : public QUndoCommand {
  public:
    SnapshotCommand(Document& document, Document::Snapshot before, Document::Snapshot after, const QString& name,
        QString merge, ListChange list = {})
        : QUndoCommand(QString(name).replace(QLatin1Char('&'), QLatin1String("&&"))), document_(document),
          before_(std::move(before)), after_(std::move(after)), merge_(std::move(merge)), list_(std::move(list)) {}

    void redo() override {
        document_.drafts_.follow(list_);
        document_.replace(after_);
    }
    void undo() override {
        document_.drafts_.follow(list_.reversed());
        document_.replace(before_);
    }
    int id() const override { return merge_.isEmpty() ? -1 : 1; }
    bool mergeWith(const QUndoCommand* other) override {
        const auto* o = static_cast<const SnapshotCommand*>(other);
        if (o->merge_ != merge_) return false;
        after_ = o->after_;
        setObsolete(*after_ == *before_); // typed and taken back: nothing to undo
        return true;
    }

  private:
    Document& document_;
    Document::Snapshot before_, after_;
    QString merge_;
    ListChange list_;
};

Document::Document(QObject* parent) : QObject(parent) {
    undo_.setUndoLimit(500);
    for (AssessmentCache* cache : {&assessments_, &pinned_assessments_})
        connect(cache, &AssessmentCache::arrived, this, &Document::changed);
    connect(&undo_, &QUndoStack::cleanChanged, this, &Document::status_changed);
    start_new();
}

void Document::replace(Snapshot machine) {
    machine_ = std::move(machine);
    drafts_.check(*machine_);
    assessments_.set(machine_);
    axis_ = std::clamp(axis_, 0, std::max(0, static_cast<int>(machine_->axes.size()) - 1));
    emit changed();
}

void Document::select_axis(int index) {
    if (index == axis_ || index < 0 || index >= static_cast<int>(machine_->axes.size())) return;
    axis_ = index;
    end_typing();
    emit changed();
}

const Assessment& Document::assessment(int axis) { return assessments_.of(static_cast<std::size_t>(axis)); }

bool Document::writable() {
    if (read_only_) emit refused(read_only_reason_);
    return !read_only_;
}

void Document::edit(const QString& name, const std::function<void(Machine&)>& change, const QString& merge) {
    push(name, change, merge.isEmpty() ? merge : merge + QString::number(typing_), {});
}

void Document::edit_list(const QString& name, const ListChange& what, const std::function<void(Machine&)>& change) {
    push(name, change, {}, what);
}

void Document::push(
    const QString& name, const std::function<void(Machine&)>& change, const QString& merge, const ListChange& list) {
    if (!writable()) return;
    auto after = std::make_shared<Machine>(*machine_);
    change(*after);
    settle(*after, *machine_);
    if (const auto full = overfull(*after)) {
        emit refused(tr("%1: %2").arg(qs(full->field), qs(full->message)));
        return;
    }
    if (*after != *machine_) undo_.push(new SnapshotCommand(*this, machine_, std::move(after), name, merge, list));
}

std::optional<Problem> Document::set_quantity(const QString& path, const QString& text) {
    auto after = std::make_shared<Machine>(*machine_);
    auto field = find_field(*after, path.toStdString());
    if (!field || field->type != FieldRef::Type::quantity)
        return Problem{Severity::error, path.toStdString(), "", "this field is no longer there", 0};
    const QuantityBase was =
        typed_.path == path && typed_.number == typing_ ? typed_.before : QuantityBase(*field->quantity);
    if (auto problem = assign(*field, text.toStdString())) return problem;
    // another value is not what the sheet said, was calculated or measured
    const bool other =
        !field->quantity->given() || field->quantity->si != was.si || field->quantity->tolerance != was.tolerance;
    field->quantity->standing = other ? InputSource::assumed : was.standing;
    field->quantity->note = other ? std::string() : was.note;
    settle(*after, *machine_);
    forget_unread(*after, path.toStdString());
    const bool same = *after == *machine_;
    if (!same && !writable())
        return Problem{Severity::error, path.toStdString(), field->label(), read_only_reason_.toStdString(), 0};
    const bool put_right = drafts_.drop(path);
    if (!same) {
        const QString name =
            tr("%1: %2").arg(QString::fromStdString(field->label()), QString::fromStdString(field->quantity->text));
        undo_.push(new SnapshotCommand(*this, machine_, std::move(after), name, path + QString::number(typing_)));
    }
    // not before: who listens reads the machine
    if (put_right) emit drafts_changed();
    return std::nullopt;
}

std::optional<Problem> Document::type_quantity(const QString& path, const QString& text) {
    const auto at_path = [&](Machine& m) {
        auto field = find_field(m, path.toStdString());
        return field && field->quantity ? std::move(field) : std::nullopt;
    };
    if (typed_.path != path || typed_.number != typing_) {
        Machine copy = *machine_;
        const auto field = at_path(copy);
        typed_ = {path, typing_, field ? *field->quantity : QuantityBase{}};
    }
    auto problem = set_quantity(path, text);
    if (!problem || read_only_) return problem;
    auto after = std::make_shared<Machine>(*machine_);
    const auto field = at_path(*after);
    if (!field) return problem;
    const std::string stored = typed_.before.text;
    if (text.toStdString() != stored)
        drafts_.keep(path, {text, *problem, stored});
    else if (drafts_.drop(path))
        emit drafts_changed();
    if (*field->quantity == typed_.before) return problem;
    *field->quantity = typed_.before;
    undo_.push(new SnapshotCommand(*this, machine_, std::move(after),
        tr("%1: %2").arg(QString::fromStdString(field->label()), QString::fromStdString(stored)),
        path + QString::number(typing_)));
    return problem;
}

void Document::accept(const std::vector<Missing>& unknowns, bool on) {
    edit(on ? tr("unknown accepted") : tr("unknown no longer accepted"), [&](Machine& m) {
        auto& accepted = m.axes[static_cast<std::size_t>(axis_)].accepted;
        for (const Missing& each : unknowns) {
            std::erase_if(accepted, [&](const Accepted& a) { return a.unknown == each.path; });
            if (on) accepted.push_back({each.path, "", {}});
        }
    });
}

void Document::end_typing() {
    ++typing_;
    if (!drafts_.all().empty()) emit drafts_changed();
}

void Document::set_standing(const QString& path, InputSource standing) {
    edit(tr("standing"), [&](Machine& m) {
        if (auto f = find_field(m, path.toStdString()); f && f->quantity) f->quantity->standing = standing;
    });
}

void Document::set_text(const QString& path, const QString& text) {
    edit(
        tr("text"),
        [&](Machine& m) {
            if (auto f = find_field(m, path.toStdString()); f && f->text) *f->text = text.toStdString();
            forget_unread(m, path.toStdString());
        },
        path);
}

void Document::set_choice(const QString& path, int index) {
    edit(tr("choice"), [&](Machine& m) {
        if (auto f = find_field(m, path.toStdString()); f && (f->choice || f->variant)) f->choose(index);
        forget_unread(m, path.toStdString());
        // a linear cycle on a rotary axis keeps its words and says what is wrong with them
        if (path.contains(QLatin1String("/mechanism"))) reread_motion(m.axes[static_cast<std::size_t>(axis_)]);
        follow_kinds(m, *machine_);
    });
}

void Document::set_flag(const QString& path, bool on) {
    edit(tr("option"), [&](Machine& m) {
        if (auto f = find_field(m, path.toStdString()); f && f->flag) *f->flag = on;
        forget_unread(m, path.toStdString());
    });
}

void Document::pin() {
    pinned_ = machine_;
    pinned_assessments_.set_as(assessments_);
    emit changed();
}

void Document::unpin() {
    pinned_.reset();
    pinned_assessments_.clear();
    emit changed();
}

const Assessment* Document::pinned_assessment() {
    if (!pinned_ || axis_ >= static_cast<int>(pinned_->axes.size())) return nullptr;
    return &pinned_assessments_.of(static_cast<std::size_t>(axis_));
}

const Axis* Document::pinned_axis() const {
    if (!pinned_ || axis_ >= static_cast<int>(pinned_->axes.size())) return nullptr;
    return &pinned_->axes[static_cast<std::size_t>(axis_)];
}

void Document::take_pinned() {
    if (!pinned_) return;
    const Snapshot a = pinned_;
    edit(tr("back to A"), [&](Machine& m) { m = *a; });
}

QString Document::title() const {
    if (!machine_->name.empty()) return qs(machine_->name);
    return file_.isEmpty() ? tr("New machine") : shown(QFileInfo(file_).completeBaseName());
}

void Document::open(ProjectRead project, const QString& file) {
    undo_.clear();
    drafts_.clear();
    assessments_.clear();
    pinned_.reset();
    pinned_assessments_.clear();
    axis_ = 0;
    file_ = file;
    recovered_ = false;
    read_only_ = project.read_only;
    read_only_reason_ = qs(project.read_only ? project.warning : "");
    machine_.reset();
    typed_ = {};
    replace(std::make_shared<const Machine>(std::move(project.machine)));
    emit status_changed();
    emit opened();
}

void Document::recover(ProjectRead project, const QString& file) {
    open(std::move(project), file);
    recovered_ = true;
    emit status_changed();
}

std::shared_ptr<const Document::AxisFields> Document::axis_fields() {
    if (const std::pair now(machine_, axis_); !walked_ || walked_at_ != now) {
        auto fields = std::make_shared<AxisFields>();
        fields->of = *machine_;
        if (has_axis()) fields->all = walk(fields->of.axes[static_cast<std::size_t>(axis_)], axis_path().toStdString());
        walked_ = fields;
        walked_at_ = now;
    }
    return walked_;
}

void Document::start_new() {
    ProjectRead fresh;
    Axis axis;
    axis.name = "Axis 1";
    axis.cycle.segments.emplace_back();
    fresh.machine.axes.push_back(std::move(axis));
    open(std::move(fresh), {});
}

void Document::take_from_disk(const Machine& machine) {
    push(tr("what is on disk"), [&](Machine& m) { m = machine; }, {}, {});
    recovered_ = false;
    end_typing();
    undo_.setClean();
    emit status_changed();
}

void Document::make_read_only(const QString& why) {
    read_only_ = true;
    read_only_reason_ = why;
    emit status_changed();
}

void Document::allow_editing() {
    read_only_ = false;
    read_only_reason_.clear();
    emit status_changed();
}

void Document::saved_as(const QString& file) {
    file_ = file;
    recovered_ = false;
    read_only_ = false;
    end_typing();
    undo_.setClean();
    emit status_changed();
}

} // namespace fulmox::app
