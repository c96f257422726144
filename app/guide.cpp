#include "app/guide.h"

#include "app/theme.h"

#include <QFile>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollBar>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextList>
#include <QVBoxLayout>

namespace fulmox::app {

Guide::Guide(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("ledger")); // the same ground as what it takes the place of
    // as wide as the ledger, in whose place it stands: the page stays whole
    setFixedWidth(296);
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(14, 12, 10, 8);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Guide"));
    title->setFont(type_face(13, Weight::strong));
    head->addWidget(title);
    head->addStretch(1);
    auto* close = new QPushButton(tr("Close"));
    close->setObjectName(QStringLiteral("link"));
    close->setAccessibleName(tr("Close the guide"));
    connect(close, &QPushButton::clicked, this, &Guide::closed);
    head->addWidget(close);
    box->addLayout(head);
    auto* line = new QHBoxLayout;
    search_ = new QLineEdit;
    search_->setObjectName(QStringLiteral("guide-search"));
    search_->setPlaceholderText(tr("Search the guide"));
    search_->setAccessibleName(tr("Search the guide"));
    count_ = new QLabel;
    count_->setObjectName(QStringLiteral("second"));
    count_->setMinimumWidth(70);
    line->addWidget(search_, 1);
    line->addWidget(count_);
    box->addLayout(line);
    text_ = new QTextBrowser;
    text_->setObjectName(QStringLiteral("guide-text"));
    text_->setAccessibleName(tr("Text of the guide"));
    text_->setOpenLinks(false);
    text_->setFrameShape(QFrame::NoFrame);
    text_->setTabChangesFocus(true);
    box->addWidget(text_, 1);
    connect(search_, &QLineEdit::textEdited, this, [this](const QString& words) { find(words, false); });
    connect(search_, &QLineEdit::returnPressed, this, [this] { find(search_->text(), true); });
}

void Guide::load() {
    need_resources();
    QFile file(QStringLiteral(":/guide.md"));
    if (!file.open(QIODevice::ReadOnly)) return;
    text_->document()->setDefaultFont(type_face(13));
    // the screens it has pictures of stand beside it
    QStringList lines = QString::fromUtf8(file.readAll()).split(QLatin1Char('\n'));
    lines.removeIf([](const QString& line) { return line.startsWith(QLatin1String("![")); });
    text_->setMarkdown(lines.join(QLatin1Char('\n')));
    // paragraphs apart, chapters more so
    QTextCursor all(text_->document());
    for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next()) {
        QTextBlockFormat format = block.blockFormat();
        const bool heading = format.headingLevel() > 0, item = block.textList() != nullptr;
        format.setTopMargin(heading ? 16 : 0);
        format.setBottomMargin(heading ? 4 : item ? 2 : 7);
        all.setPosition(block.position());
        all.setBlockFormat(format);
    }
    loaded_ = true;
}

void Guide::open_at(const QString& heading) {
    if (!loaded_) load();
    search_->clear();
    find({}, false);
    text_->moveCursor(QTextCursor::Start);
    QTextCursor at(text_->document());
    for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next())
        if (block.blockFormat().headingLevel() > 0 && block.text() == heading) {
            at.setPosition(block.position());
            break;
        }
    text_->setTextCursor(at);
    // at the top, once the text has its width
    text_->document()->setTextWidth(text_->viewport()->width());
    text_->verticalScrollBar()->setValue(text_->verticalScrollBar()->value() + text_->cursorRect().top() - 4);
    search_->setFocus();
}

void Guide::find(const QString& words, bool next) {
    QList<QTextEdit::ExtraSelection> marks;
    QTextCursor shown;
    const int after = next ? text_->textCursor().selectionEnd() : 0;
    if (!words.trimmed().isEmpty())
        for (QTextCursor c = text_->document()->find(words); !c.isNull(); c = text_->document()->find(words, c)) {
            QTextEdit::ExtraSelection mark;
            mark.cursor = c;
            mark.format.setBackground(theme().accent_ground);
            marks.push_back(mark);
            if (shown.isNull() && c.selectionStart() >= after) shown = c;
        }
    found_ = static_cast<int>(marks.size());
    if (shown.isNull() && !marks.isEmpty()) shown = marks.front().cursor;
    text_->setExtraSelections(marks);
    int number = 0;
    for (int i = 0; i < found_; ++i)
        if (marks[i].cursor.position() == shown.position()) number = i + 1;
    if (!shown.isNull()) text_->setTextCursor(shown);
    count_->setText(words.trimmed().isEmpty() ? QString()
                    : found_ == 0             ? tr("nothing found")
                                              : tr("%1 of %2").arg(number).arg(found_));
}

QString Guide::text_in_view() const { return text_->cursorForPosition({4, 8}).block().text(); }

void Guide::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Escape) return QFrame::keyPressEvent(event);
    emit closed();
}

void Guide::changeEvent(QEvent* event) {
    QFrame::changeEvent(event);
    if (event->type() == QEvent::StyleChange && loaded_) find(search_->text(), false);
}

} // namespace fulmox::app
