#include "app/parts/shelf_model.h"

#include "app/bricks/table_columns.h"
#include "app/part_shelf.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/files/shelf_report.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>

namespace fulmox::app {

namespace {

// What a table shows of a part of this kind beside price and mass.
std::vector<std::string> shown_fields(const PartKind& kind) {
    const std::string_view of = kind.key;
    if (of == "gearhead")
        return {"/type", "/ratio", "/rated_torque", "/peak_torque", "/top_speed", "/backlash", "/efficiency"};
    if (of == "coupling")
        return {"/type", "/allowable_torque", "/smallest_bore", "/largest_bore", "/stiffness", "/top_speed"};
    if (of == "brake") return {"/static_torque", "/dynamic_torque", "/apply_time", "/stop_energy", "/inertia"};
    if (of == "drive")
        return {"/continuous_current", "/peak_current", "/peak_time", "/most_current", "/lowest_voltage",
            "/highest_voltage"};
    if (of == "supply") return {"/type", "/voltage", "/current", "/peak_current", "/power", "/capacitance"};
    return {};
}

} // namespace

ShelfModel::ShelfModel(Document& document, const PartKind& kind, QObject* parent)
    : QAbstractTableModel(parent), document_(document), kind_(kind) {
    const std::vector<PartField> all = part_fields(kind);
    for (const std::string& path : shown_fields(kind)) {
        const auto it = std::find_if(all.begin(), all.end(), [&](const PartField& f) { return f.path == path; });
        if (it != all.end()) fields_.push_back(*it);
    }
    connect(&document_, &Document::changed, this, [this] {
        if (const bool other = !present(); std::exchange(told_, other) != other) emit judged();
    });
}

ShelfModel::Looked ShelfModel::look(const PartKind& kind, const PartLists& parts, const std::vector<PartField>& fields,
    UnitSystem units, std::size_t row, const QString& origin) {
    PartLists& from = const_cast<PartLists&>(parts); // only looked at
    Looked out;
    const FieldRefs all = walk(kind.own(from).shared_entry(row));
    out.words = qs(kind.name(from, row));
    for (const PartField& f : fields) {
        const auto it = std::find_if(all.begin(), all.end(), [&](const FieldRef& x) { return x.path == f.path; });
        out.cells.push_back(it == all.end()
                                ? Shown{{}, std::nan("")}
                                : Shown{qs(shown_value(*it, units)),
                                      it->quantity && it->quantity->given() ? it->quantity->si : std::nan("")});
        out.words += QLatin1Char(' ') + out.cells.back().text;
    }
    out.words = (out.words + QLatin1Char(' ') + origin).toLower();
    return out;
}

const ShelfModel::Looked& ShelfModel::looked(std::size_t row) const {
    Looked& held = rows_.looked[row];
    if (held.words.isEmpty())
        held = look(kind_, *rows_.parts, fields_, document_.machine().unit_system, row, rows_.origins[row]);
    return held;
}

const QString& ShelfModel::words(int row) const { return looked(static_cast<std::size_t>(row)).words; }

void ShelfModel::follow() {
    const Machine& m = document_.machine();
    const bool same = seen_ && revision_ == part_shelf().revision() && seen_->unit_system == m.unit_system &&
                      static_cast<const PartLists&>(*seen_) == static_cast<const PartLists&>(m);
    seen_ = document_.snapshot();
    if (same) return;
    revision_ = part_shelf().revision();
    struct Source {
        std::shared_ptr<const PartLists> parts;
        QString origin;
    };
    std::vector<Source> from;
    from.push_back(
        {{std::shared_ptr<void>(), &part_shelf().shipped()}, tr("Aviary catalogue")}); // lives as long as all
    for (const UserCatalogue& c : part_shelf().own()) from.push_back({c.parts, c.name});
    from.push_back({seen_, tr("this project")});
    const auto count = [&kind = kind_](const Source& s) {
        return kind.own(const_cast<PartLists&>(*s.parts)).size(); // only looked at
    };
    std::size_t all = 0;
    for (const Source& s : from) all += count(s);
    // of many, filters and orders shall find every row looked at
    const bool many = all > few;
    const auto gather = [from, count, many, fields = fields_, &kind = kind_, units = m.unit_system](const auto& go_on) {
        Rows rows;
        auto parts = std::make_shared<PartLists>();
        for (const Source& s : from) {
            const std::size_t n = count(s);
            for (std::size_t i = 0; i < n && go_on(); ++i) kind.keep(*parts, *s.parts, i);
            rows.project_from = rows.origins.size();
            rows.origins.insert(rows.origins.end(), n, s.origin);
        }
        rows.looked.resize(rows.origins.size());
        for (std::size_t row = 0; many && row < rows.origins.size() && go_on(); ++row)
            rows.looked[row] = look(kind, *parts, fields, units, row, rows.origins[row]);
        rows.parts = std::move(parts);
        return rows;
    };
    if (many) {
        gathering_.run(this, gather, [this](Rows rows) {
            show(std::move(rows));
            emit looked_through();
        });
    } else {
        gathering_.drop();
        show(gather([] { return true; }));
    }
}

void ShelfModel::show(Rows rows) {
    beginResetModel();
    work_.drop(); // of rows that are no more
    rows_ = std::move(rows);
    judged_.clear();
    ranks_.clear();
    of_ = nullptr;
    endResetModel();
}

const std::string& ShelfModel::part_name(int row) const {
    return kind_.name(const_cast<PartLists&>(*rows_.parts), static_cast<std::size_t>(row)); // only looked at
}
bool ShelfModel::of_project(int row) const { return static_cast<std::size_t>(row) >= rows_.project_from; }

const Candidate* ShelfModel::candidate(int row) const {
    if (judging()) return nullptr;
    return static_cast<std::size_t>(row) < judged_.size() ? &judged_[static_cast<std::size_t>(row)] : nullptr;
}

CandidateCount ShelfModel::counts() const { return judging() ? CandidateCount{} : count(judged_); }

bool ShelfModel::present() const {
    if (!document_.has_axis() || !*kind_.at || rows_.origins.empty()) return true;
    return of_.get() == &document_.machine() && of_axis_ == document_.axis_index();
}

void ShelfModel::judge(std::size_t place) {
    place_ = place;
    if (!document_.has_axis() || !*kind_.at || rows_.origins.empty()) return;
    const auto changed = [this] { emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1)); };
    work_.run(
        this,
        [machine = document_.snapshot(), axis = static_cast<std::size_t>(document_.axis_index()), parts = rows_.parts,
            count = rows_.origins.size(), &kind = kind_, place](const StopToken& go_on) {
            std::vector<std::size_t> which(count);
            std::iota(which.begin(), which.end(), std::size_t{0});
            Result out;
            out.judged =
                judge_parts(*machine, axis, kind, place, *parts, which, go_on, [&](double s) { go_on.done(s); });
            if (out.judged.empty()) return out;
            std::vector<double> prices;
            for (const std::size_t i : which)
                prices.push_back(kind.price(*parts, i).given() ? kind.price(*parts, i).si : std::nan(""));
            out.ranks.resize(count);
            std::size_t next = 0;
            for (const std::size_t i : cheapest_first(prices, out.judged)) out.ranks[i] = ++next;
            return out;
        },
        [this, changed, of = document_.snapshot(), axis = document_.axis_index()](Result r) {
            if (r.judged.size() != rows_.origins.size()) return; // the shelf has changed meanwhile, and is judged again
            judged_ = std::move(r.judged);
            ranks_ = std::move(r.ranks);
            of_ = of;
            of_axis_ = axis;
            told_ = !present();
            changed();
            emit judged();
        });
    if (!work_.running()) return;
    changed(); // the cells say so until then
    emit judged();
}

bool ShelfModel::in_use(int row) const {
    if (!document_.has_axis() || place_ >= kind_.places(document_.axis())) return false;
    return !part_name(row).empty() && kind_.chosen_name(const_cast<Axis&>(document_.axis()), place_) == part_name(row);
}

QString ShelfModel::provenance(int row) const {
    const Provenance& p =
        kind_.provenance(const_cast<PartLists&>(*rows_.parts), static_cast<std::size_t>(row)); // only looked at
    QStringList words{from(row)};
    if (!p.file.empty() && qs(p.file) != from(row)) words << qs(p.file);
    if (!p.line.empty()) words << tr("line %1").arg(qs(p.line));
    if (!p.date.empty()) words << tr("read on %1").arg(qs(p.date));
    if (!p.note.empty()) words << qs(p.note);
    return words.join(QStringLiteral(", "));
}

void ShelfModel::toggle_mark(int row) {
    const std::string& part = part_name(row);
    if (const auto it = std::find(marked_.begin(), marked_.end(), part); it != marked_.end())
        marked_.erase(it);
    else if (marked_.size() < most_marked)
        marked_.push_back(part);
    emit dataChanged(index(row, 0), index(row, 0));
}

int ShelfModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.origins.size());
}
int ShelfModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : first_field + static_cast<int>(fields_.size()) + 1;
}

std::vector<MapColumn> ShelfModel::map_columns() const {
    const UnitSystem units = document_.machine().unit_system;
    const auto given = [](const QuantityBase& q) { return q.given() ? q.si : std::nan(""); };
    std::vector<MapColumn> out;
    if (*kind_.at)
        out.push_back({tr("Tightest"), QStringLiteral("%"), true, [this](int row) {
                           const Candidate* c = candidate(row);
                           // over by a yes or no stands beyond the border
                           return !c ? std::nan("")
                                  : std::isnan(c->tightest) && c->state == LimitState::over
                                      ? std::numeric_limits<double>::infinity()
                                      : 100 * c->tightest;
                       }});
    out.push_back({tr("Price"), qs(document_.machine().currency), true,
        [this, given](int row) { return given(kind_.price(*rows_.parts, static_cast<std::size_t>(row))); }});
    const Unit& mass_unit = display_unit(Kind::mass, units);
    out.push_back({tr("Mass"), symbol(mass_unit), true, [this, given, &mass_unit](int row) {
                       return from_si(given(kind_.mass(*rows_.parts, static_cast<std::size_t>(row))), mass_unit);
                   }});
    for (std::size_t f = 0; f < fields_.size(); ++f) {
        if (fields_[f].kind == Kind::illegal) continue;
        const Unit& unit = display_unit(fields_[f].kind, units);
        const bool less = fields_[f].path == "/inertia" || fields_[f].path == "/backlash";
        out.push_back({qs(fields_[f].label), symbol(unit), less,
            [this, f, &unit](int row) { return from_si(cells(static_cast<std::size_t>(row))[f].value, unit); }});
    }
    return out;
}
std::optional<LimitState> ShelfModel::map_state(int row) const {
    const Candidate* c = candidate(row);
    return c ? std::optional(c->state) : std::nullopt;
}
QString ShelfModel::map_name(int row) const { return qs(part_name(row)); }

QVariant ShelfModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal) return {};
    static constexpr const char* heads[] = {"", "#", "Price", "Mass", "Tightest", "Limit"};
    const int field = section - first_field;
    const bool text = section == name || section == limit || section == columnCount() - 1 ||
                      (field >= 0 && field < static_cast<int>(fields_.size()) &&
                          fields_[static_cast<std::size_t>(field)].kind == Kind::illegal);
    if (role == Qt::TextAlignmentRole) return int((text ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
    if (role == Qt::ToolTipRole) {
        if (section == price) return tr("Price, in the currency of the machine page; nothing is converted");
        if (section == rank) return tr("Cheapest suitable first");
        if (section == tightest) return tr("The tightest of the limits that such a part decides; hover for why");
        if (section == name) return tr("A bar before it: side by side (Space)");
        return {};
    }
    if (role != Qt::DisplayRole && role != Qt::AccessibleTextRole) return {};
    if (role == Qt::DisplayRole && section == price) return price_head(document_.machine().currency, tr(heads[price]));
    if (section == name) return tr(kind_.label);
    if (section < first_field) return tr(heads[section]);
    if (field < static_cast<int>(fields_.size())) return qs(fields_[static_cast<std::size_t>(field)].label);
    return tr("From");
}

std::optional<double> ShelfModel::order_value(int row, int column) const {
    const auto at = static_cast<std::size_t>(row);
    const int field = column - first_field;
    const auto number = [](const QuantityBase& q) { return q.given() ? q.si : std::nan(""); };
    if (column == rank) return at < ranks_.size() ? static_cast<double>(ranks_[at]) : std::nan("");
    if (column == price) return number(kind_.price(*rows_.parts, at));
    if (column == mass) return number(kind_.mass(*rows_.parts, at));
    if (column == tightest) {
        if (at >= judged_.size()) return std::nan("");
        const Candidate* c = &judged_[at]; // while they are judged they stay where they are
        return static_cast<int>(c->state) * 1e6 + (std::isnan(c->tightest) ? 1e5 : std::min(c->tightest, 1e5));
    }
    if (field < 0 || field >= static_cast<int>(fields_.size()) ||
        fields_[static_cast<std::size_t>(field)].kind == Kind::illegal)
        return std::nullopt;
    return cells(at)[static_cast<std::size_t>(field)].value;
}

QVariant ShelfModel::data(const QModelIndex& at, int role) const {
    if (!at.isValid()) return {};
    const auto row = static_cast<std::size_t>(at.row());
    const int column = at.column(), field = column - first_field;
    const Candidate* c = candidate(at.row());
    const auto number = [](const QuantityBase& q) { return q.given() ? q.si : std::nan(""); };
    const bool is_field = field >= 0 && field < static_cast<int>(fields_.size());
    switch (role) {
    case Qt::DisplayRole:
        if (column == name) return qs(part_name(at.row()));
        if (column == rank) return c && row < ranks_.size() ? QString::number(ranks_[row]) : QStringLiteral("–");
        if (column == price) {
            const double v = number(kind_.price(*rows_.parts, row));
            return std::isnan(v) ? QStringLiteral("–") : qs(format_number(v));
        }
        if (column == mass) {
            const double v = number(kind_.mass(*rows_.parts, row));
            return std::isnan(v) ? QStringLiteral("–")
                                 : qs(format_quantity(v, Kind::mass, document_.machine().unit_system, 3));
        }
        if (column == tightest) {
            if (!*kind_.at) return tr("judged later");
            if (!c) return judging() ? tr("being judged…") : QStringLiteral("–");
            const QString state = QString::fromUtf8(state_words(c->state));
            return std::isnan(c->tightest) ? state : QStringLiteral("%1  %2").arg(state, qs(use_text(c->tightest)));
        }
        if (column == limit) return c ? qs(c->limit) : QString();
        if (is_field) {
            const QString& text = cells(row)[static_cast<std::size_t>(field)].text;
            return text.isEmpty() ? QStringLiteral("–") : text;
        }
        return rows_.origins[row];
    case Qt::TextAlignmentRole:
        return headerData(column, Qt::Horizontal, Qt::TextAlignmentRole);
    case Qt::FontRole:
        return column == name && in_use(at.row()) ? QVariant(type_face(13, Weight::strong)) : QVariant();
    case Qt::BackgroundRole:
        return in_use(at.row()) ? QVariant(theme().accent_ground) : QVariant();
    case state_role:
        return column == tightest && c ? QVariant(static_cast<int>(c->state)) : QVariant();
    case mark_role:
        return std::find(marked_.begin(), marked_.end(), part_name(at.row())) != marked_.end();
    case Qt::ToolTipRole:
        if (column == tightest && c)
            return plain_tip((c->limit.empty() ? QString() : qs(c->limit) + QStringLiteral(": ")) +
                             qs(c->reason.in(document_.machine().unit_system)));
        if (column == name) return plain_tip(provenance(at.row()));
        return {};
    case Qt::AccessibleTextRole:
        return column == tightest && c ? QVariant(QString::fromUtf8(state_words(c->state))) : QVariant();
    default:
        return {};
    }
}

} // namespace fulmox::app
