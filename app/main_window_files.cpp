// Opening, saving and bringing back: what the window does with files.
#include "app/main_window.h"
#include "app/opening.h"
#include "app/theme.h"
#include "app/words.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>

namespace fulmox::app {

void MainWindow::offer_recovery() {
    const std::vector<Leftover> found = recovery_.leftovers();
    if (found.empty()) return;
    const Leftover l = found.front();
    const QString what =
        l.original_file.isEmpty() ? tr("a project that was never saved") : QFileInfo(l.original_file).fileName();
    const auto discard = [this, l] {
        Recovery::discard(l);
        offer_recovery();
    };
    show_message(
        tr("The program ended unexpectedly on %1 with unsaved work on %2.")
            .arg(l.when.toString(QStringLiteral("yyyy-MM-dd HH:mm")), what),
        tr("Bring it back"),
        [this, l, discard] {
            auto read = load_beside(this, l);
            if (!read) return offer_recovery(); // stopped
            auto& project = *read;
            if (!project) {
                return show_message(
                    tr("The unsaved work could not be read, and stays in %1: %2").arg(l.recovery_file, project.error()),
                    tr("Discard it"), discard);
            }
            if (!may_leave()) return offer_recovery();
            document_.recover(std::move(*project), l.original_file);
            if (!l.mark.isEmpty()) mark_ = l.mark; // what the file held when this work began
            claim_file();
            if (keep_now()) Recovery::discard(l); // else the only copy stays where it is
        },
        tr("Discard it"), discard);
}

bool MainWindow::keep_now() {
    autosave_.stop();
    if (!document_.modified()) {
        recovery_.forget();
        return true;
    }
    const QString why = recovery_.keep(document_.machine(), document_.file(), mark_.value_or(QByteArray()));
    if (!why.isEmpty()) show_message(tr("Unsaved work cannot be kept safe: %1").arg(why));
    return why.isEmpty();
}

bool MainWindow::may_leave() {
    if (!document_.modified() && document_.drafts().all().empty()) return true;
    switch (confirm_leave()) {
    case Leave::save:
        return save();
    case Leave::discard:
        return true;
    case Leave::stay:
        break;
    }
    return false;
}

bool MainWindow::open_file(const QString& file) {
    auto project = load_beside(this, file);
    return project && open_project({std::move(*project), QFileInfo(file).absoluteFilePath()});
}

bool MainWindow::open_project(Opening opening) {
    if (!opening.project) {
        show_message(opening.project.error());
        return false;
    }
    ProjectRead said;
    said.warning = opening.project->warning;
    said.problems = opening.project->problems;
    document_.open(std::move(*opening.project), opening.file);
    if (!opening.file.isEmpty()) remember_file(opening.file);
    say_what_was_found(said);
    claim_file();
    return true;
}

void MainWindow::watch_file() {
    const QString file = document_.file();
    looking_.drop(); // what it read may be older
    told_ = mark_ = file.isEmpty() ? std::nullopt : content_mark(file);
    if (const QStringList old = watcher_.files() + watcher_.directories(); !old.isEmpty()) watcher_.removePaths(old);
    // programs that write a new file and put it in place of the old one are seen by the folder only
    if (!file.isEmpty()) watcher_.addPaths({file, QFileInfo(file).absolutePath()});
}

void MainWindow::claim_file() {
    if (recovery_.claim(document_.file()) || document_.read_only()) return;
    const QString name = QFileInfo(document_.file()).fileName();
    document_.make_read_only(tr("%1 is open in another window.").arg(name));
    show_message(
        tr("%1 is open in another window too. It is open for reading here, so that neither overwrites the other.")
            .arg(name),
        tr("Edit it here anyway"), [this] { document_.allow_editing(); }, tr("Close"), {});
}

void MainWindow::look_at_file() {
    const QString file = document_.file();
    if (file.isEmpty()) return;
    // beside the window: a large file that another program writes is looked at again and again
    looking_.run(
        this, [file](const StopToken&) { return content_mark(file); },
        [this, file](const std::optional<QByteArray>& now) {
            if (file == document_.file()) tell_of_file(file, now);
        });
}

void MainWindow::tell_of_file(const QString& file, const std::optional<QByteArray>& now) {
    if (now && !watcher_.files().contains(file)) watcher_.addPath(file); // a new file in the old one's place
    if (now == told_) return;
    told_ = now;
    const QString name = QFileInfo(file).fileName();
    // until somebody answers what is open rests on the older file, and saving over the newer one asks
    if (now == mark_) return show_message(tr("%1 is as it was again.").arg(name));
    if (!now) {
        show_message(tr("%1 is no longer there. What is open here is whole; saving writes it again.").arg(name));
        return;
    }
    show_message(
        tr("%1 was changed by another program.").arg(name), tr("Take what is on disk"),
        [this, file] {
            auto read = load_beside(this, file);
            if (!read) { // stopped: the question stands
                told_ = mark_;
                return look_at_file();
            }
            auto& project = *read;
            if (!project) return show_message(project.error());
            if (project->read_only || document_.read_only()) {
                open_project({std::move(project), file});
                return;
            }
            looking_.drop();
            told_ = mark_ = content_mark(file);
            document_.take_from_disk(project->machine);
        },
        tr("Keep what is here"), [this, now] { mark_ = now; });
}

void MainWindow::say_what_was_found(const ProjectRead& project) {
    const QString warning = qs(project.warning);
    int errors = 0;
    QString first;
    for (const Problem& p : project.problems) {
        if (p.severity != Severity::error) continue;
        if (errors++ == 0) first = qs(to_text(p));
    }
    if (!warning.isEmpty())
        show_message(errors > 0 ? warning + QLatin1Char(' ') + first : warning);
    else if (errors > 0)
        show_message(errors == 1 ? tr("One place in this file could not be read; the ledger lists it: %1").arg(first)
                                 : tr("%1 places in this file could not be read; the ledger lists them. First: %2")
                                       .arg(errors)
                                       .arg(first));
}

void MainWindow::open_demo() { open_project({load_demo(), {}}); }

bool MainWindow::save_to(const QString& file) {
    const QString whole = QFileInfo(file).absoluteFilePath();
    if (whole == document_.file())
        if (const auto now = content_mark(file); now && now != mark_) {
            const Overwrite answer = confirm_changed(file);
            if (answer != Overwrite::over) return answer == Overwrite::elsewhere && save_as();
        }
    if (const QString why = save_project(file, document_.machine()); !why.isEmpty()) {
        show_message(why, tr("Save elsewhere…"), [this] { save_as(); }, tr("Close"), {});
        return false;
    }
    const bool moved = whole != document_.file();
    document_.saved_as(whole);
    watch_file();
    if (moved) claim_file();
    remember_file(document_.file());
    recovery_.forget();
    autosave_.stop();
    if (const auto& drafts = document_.drafts().all(); !drafts.empty())
        show_message(tr("Saved, but without \"%1\" in the field %2, which cannot be read%3.")
                         .arg(drafts.begin()->second.text,
                             field_name(drafts.begin()->second.problem.field, drafts.begin()->first),
                             drafts.size() > 1 ? tr(", and %1 more").arg(drafts.size() - 1) : QString()));
    return true;
}

bool MainWindow::save() {
    if (document_.read_only()) {
        show_message(tr("Not saved over: %1 Save it under another name to keep your own copy.")
                         .arg(document_.read_only_reason()),
            tr("Save elsewhere…"), [this] { save_as(); }, tr("Close"), {});
        return false;
    }
    return document_.file().isEmpty() ? save_as() : save_to(document_.file());
}

bool MainWindow::save_as() {
    const QString f = QFileDialog::getSaveFileName(this, tr("Save project"),
        document_.file().isEmpty() ? document_.title() + QStringLiteral(".fulmox") : document_.file(),
        tr("Fulmox projects (*.fulmox)"));
    return !f.isEmpty() && save_under(f);
}

bool MainWindow::save_under(QString f) {
    if (QFileInfo(f).suffix().isEmpty()) {
        f += QStringLiteral(".fulmox");
        if (QFileInfo::exists(f) && !confirm_overwrite(f)) return false; // the dialog has asked for another name
    }
    return save_to(f);
}

void MainWindow::fill_recent(QMenu* menu) {
    menu->clear();
    for (const QString& f : recent_files())
        menu->addAction(plain_label(f), this, [this, f] {
            if (may_leave()) open_file(f);
        });
    if (menu->isEmpty()) menu->addAction(tr("No files yet"))->setEnabled(false);
}

} // namespace fulmox::app
