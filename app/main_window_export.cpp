// Taking away what the window shows: the report, and copies.
#include "app/clip.h"
#include "app/ledger.h"
#include "app/main_window.h"
#include "app/pages/page.h"
#include "app/parts/part_cards.h"
#include "app/quick_report.h"
#include "app/storage.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/match/bounds.h"
#include "core/report/json_report.h"

#include <QAccessible>
#include <QAction>
#include <QApplication>
#include <QContextMenuEvent>
#include <QDir>
#include <QLabel>
#include <QMenu>
#include <QPrintDialog>
#include <QPrinter>
#include <QPrinterInfo>
#include <QPushButton>
#include <QStackedWidget>

namespace fulmox::app {

// What went well is said for a moment and moves nothing; a message that waits for an answer keeps its place.
void MainWindow::say_done(const QString& text) {
    if (!done_) {
        done_ = new QLabel(centralWidget());
        done_->setObjectName(QStringLiteral("done"));
        done_->setTextFormat(Qt::PlainText);
        done_->setAttribute(Qt::WA_TransparentForMouseEvents);
        done_timer_.setSingleShot(true);
        done_timer_.setInterval(3000);
        connect(&done_timer_, &QTimer::timeout, done_, &QLabel::hide);
    }
    const int room = centralWidget()->width() - 60;
    done_->setText(done_->fontMetrics().elidedText(text, Qt::ElideMiddle, room - 40));
    done_->adjustSize();
    done_->move((centralWidget()->width() - done_->width()) / 2, centralWidget()->height() - done_->height() - 18);
    done_->raise();
    done_->show();
    done_timer_.start();
    QAccessibleEvent said(done_, QAccessible::Alert);
    QAccessible::updateAccessibility(&said);
}

bool MainWindow::save_report(const QString& file) {
    if (const QString why = write_report(document_, file); !why.isEmpty()) {
        show_message(tr("No report was written: %1").arg(why));
        return false;
    }
    say_done(tr("The report is in %1.").arg(QDir::toNativeSeparators(file)));
    return true;
}

void MainWindow::save_results(const QString& file) {
    results_.run(
        this,
        [machine = document_.snapshot()](const StopToken& go_on) {
            const auto beyond = too_long(*machine);
            std::vector<Assessment> axes;
            for (std::size_t i = 0; i < machine->axes.size() && go_on(); ++i)
                axes.push_back(assess(*machine, i, {.workings = true, .beyond = &beyond[i]}));
            return go_on() ? QByteArray::fromStdString(assessment_json(*machine, axes)) : QByteArray();
        },
        [this, file, drafts = !document_.drafts().all().empty()](const QByteArray& json) {
            const QString why = json.isEmpty() ? tr("there is not enough memory") : write_atomically(file, json);
            if (!why.isEmpty()) return show_message(tr("No results were written: %1").arg(why));
            const QString where = tr("The results are in %1.").arg(QDir::toNativeSeparators(file));
            say_done(drafts ? where + tr(" Text that cannot be read is not among the inputs.") : where);
        });
}

void MainWindow::print_report() {
    if (!document_.has_axis() || document_.assessment().pending)
        return show_message(tr("There is nothing to print yet: the axis is not assessed."));
    if (QPrinterInfo::availablePrinterNames().isEmpty()) {
        show_message(tr("No printer is set up on this computer. The same report can be saved as a PDF."),
            tr("Report as PDF…"), [this] { findChild<QAction*>(QStringLiteral("report"))->trigger(); }, tr("Close"),
            {});
        return;
    }
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageMargins({16, 14, 16, 12}, QPageLayout::Millimeter);
    printer.setDocName(qs(document_.axis().name));
    QPrintDialog asks(&printer, this);
    if (asks.exec() != QDialog::Accepted) return;
    if (paint_report(document_, printer) == 0) show_message(tr("The printer took nothing; its queue may say why."));
}

void MainWindow::copy_here() {
    QWidget* part = copyable_around(QApplication::focusWidget());
    if (part && isAncestorOf(part)) {
        copy_part(*part);
        say_done(tr("Copied: %1").arg(part->accessibleName().isEmpty() ? tr("this table") : part->accessibleName()));
        return;
    }
    copy_section("figures");
}

void MainWindow::copy_section(const std::string& key) {
    if (!document_.has_axis()) return;
    for (const ReportSection& s : report_of(document_))
        if (s.key == key) {
            copy_table(s.table);
            say_done(tr("Copied: %1 of %2").arg(qs(s.title), qs(document_.axis().name)));
        }
}

// Whatever the report has, so that what is added to it can be copied too.
void MainWindow::fill_copies(QMenu* menu) {
    menu->clear();
    if (document_.has_axis())
        for (const ReportSection& s : report_of(document_))
            if (!s.table.empty() && s.key != "head")
                menu->addAction(plain_label(qs(s.title)), this, [this, key = s.key] { copy_section(key); });
    menu->addSeparator();
    menu->addAction(tr("This page as a picture"), this, [this] { copy_picture(*stack_->currentWidget()); });
}

std::vector<CommandPalette::Command> MainWindow::page_actions() {
    std::vector<CommandPalette::Command> out;
    if (!document_.has_axis()) return out;
    const auto& pages = page_registry();
    for (const PageEntry& page : pages)
        for (const TabEntry& tab : page.tabs)
            if (!tab.card || has_card(document_.axis(), *tab.card))
                out.push_back({tr(tab.name), tr("tab of %1").arg(tr(page.question)),
                    [this, key = page.key, tab = QString::fromUtf8(tab.key)] {
                        if (open_page(key, tab)) this->page(page_by_key(key))->begin();
                    }});
    for (std::size_t i = 0; i < pages.size(); ++i)
        for (const PageAction& does : pages[i].actions)
            out.push_back({tr(does.words), tr(pages[i].question),
                [this, i, button = QString::fromUtf8(does.button), words = tr(does.words)] {
                    show_page(static_cast<int>(i));
                    for (QPushButton* b : page(static_cast<int>(i))->findChildren<QPushButton*>())
                        if (b->objectName() == button || b->property("action").toString() == button) {
                            if (b->isVisible()) return b->click();
                            return say_done(tr("%1: there is nothing to do").arg(words));
                        }
                }});
    for (const CardEntry& card : card_entries)
        if (has_card(document_.axis(), card.of))
            out.push_back({QCoreApplication::translate("fulmox::app::PartCards", card.title), tr("part of the axis"),
                [this, of = card.of] {
                    open_page("parts");
                    findChild<PartCards*>()->select(of);
                    page(page_by_key("parts"))->begin();
                },
                QString::fromUtf8(card.synonyms)});
    for (const Limit& l : document_.assessment().limits)
        out.push_back(
            {qs(l.label), tr("limit, %1; its working and headroom").arg(QString::fromUtf8(state_words(l.state))),
                [this, key = qs(l.key)] {
                    show_ledger(LedgerShown::whole);
                    ledger_->show_row(key);
                }});
    out.push_back({tr("Parts list"), tr("of the machine"), [this] { show_page(Outline::machine_page); },
        QStringLiteral("bill of materials, order, price, mass")});
    for (const ReportSection& s : report_of(document_))
        if (!s.table.empty() && s.key != "head")
            out.push_back({tr("Copy %1").arg(qs(s.title).toLower()), tr("as a table"),
                [this, key = s.key] { copy_section(key); }});
    out.push_back({tr("Copy this page"), tr("as a picture"), [this] { copy_picture(*stack_->currentWidget()); }});
    return out;
}

bool MainWindow::open_page(const char* key, const QString& tab) {
    const int index = page_by_key(key);
    show_page(index);
    return tab.isEmpty() || page(index)->show_tab(tab);
}

void MainWindow::contextMenuEvent(QContextMenuEvent* event) {
    QWidget* part = copyable_around(childAt(event->pos()));
    if (!part) return QMainWindow::contextMenuEvent(event);
    QMenu menu(this);
    menu.addAction(tr("Copy as a table"), this, [part] { copy_table(table_of(*part)); });
    menu.addAction(tr("Copy as a picture"), this, [part] { copy_picture(*part); });
    menu.exec(event->globalPos());
}

} // namespace fulmox::app
