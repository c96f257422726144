#include "app/forms/mechanism_gallery.h"

#include "app/schematic/schematic.h"
#include "app/theme.h"

#include <QGridLayout>
#include <QGuiApplication>
#include <QScreen>

namespace fulmox::app {

namespace {

template <std::size_t... I> std::vector<Mechanism> every(std::index_sequence<I...>) {
    return {Mechanism(std::in_place_index<I>)...};
}

QString label_of(const Mechanism& m) {
    return std::visit([](const auto& held) { return QString::fromUtf8(std::decay_t<decltype(held)>::kind_label); }, m);
}

} // namespace

std::vector<Mechanism> all_mechanisms() { return every(std::make_index_sequence<std::variant_size_v<Mechanism>>()); }

MechanismGallery::MechanismGallery(Document& document, QWidget* parent)
    : QFrame(parent, Qt::Popup), document_(document) {
    setObjectName(QStringLiteral("card"));
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(12, 12, 12, 12);
    search_ = new QLineEdit;
    search_->setObjectName(QStringLiteral("mechanism-search"));
    search_->setAccessibleName(tr("Part of a mechanism's name"));
    search_->setPlaceholderText(tr("Type part of a name, Enter takes the first"));
    box->addWidget(search_);
    auto* grid = new QGridLayout;
    grid->setSpacing(6);
    int i = 0;
    for (const Mechanism& m : all_mechanisms()) {
        auto* b = new QToolButton;
        b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        b->setIconSize({148, 82});
        b->setIcon(QIcon(mechanism_picture(m, {148, 82}, devicePixelRatioF())));
        b->setText(label_of(m));
        b->setAccessibleName(label_of(m));
        b->setFont(type_face(12));
        b->setFixedSize(182, 112);
        connect(b, &QToolButton::clicked, this, [this, i] { take(i); });
        grid->addWidget(b, i / 4, i % 4);
        buttons_.push_back(b);
        ++i;
    }
    box->addLayout(grid);
    connect(search_, &QLineEdit::textChanged, this, &MechanismGallery::filter);
    connect(search_, &QLineEdit::returnPressed, this, [this] {
        for (std::size_t k = 0; k < buttons_.size(); ++k)
            if (buttons_[k]->isEnabled()) return take(static_cast<int>(k));
    });
}

void MechanismGallery::open_at(const QPoint& place) {
    search_->clear();
    adjustSize();
    QPoint at = place;
    if (const QScreen* screen = QGuiApplication::screenAt(place)) {
        const QRect room = screen->availableGeometry();
        at.setX(std::clamp(at.x(), room.left(), std::max(room.left(), room.right() - width())));
        at.setY(std::clamp(at.y(), room.top(), std::max(room.top(), room.bottom() - height())));
    }
    move(at);
    show();
    search_->setFocus();
}

void MechanismGallery::filter(const QString& text) {
    for (QToolButton* b : buttons_) b->setEnabled(b->text().contains(text.trimmed(), Qt::CaseInsensitive));
}

void MechanismGallery::take(int kind) {
    document_.set_choice(document_.axis_path() + QStringLiteral("/mechanism"), kind);
    hide();
}

} // namespace fulmox::app
