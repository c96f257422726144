#include "core/model/provenance.h"

#include "core/model/visitor.h"

namespace fulmox {

void Provenance::describe(FieldVisitor& v) {
    v.text(file, {"file", "Read from", "The file it was read from."});
    v.text(line, {"line", "Line", "Of that file."});
    v.text(date, {"date", "Read on", "Year, month, day."});
    v.text(note, {"note", "Note", "Who said so, and anything worth knowing later."});
}

void Listing::describe(FieldVisitor& v) {
    v.text(series, {"series", "Series", "Family of parts it belongs to."});
    v.text(origin, {"origin", "From", "Catalogue or datasheet these numbers come from."});
    Provenance::describe(v);
}

} // namespace fulmox
