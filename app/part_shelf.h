// Catalogues of parts beside those of motors: the ones that ship with the program, and those of one's own in the user's
// data folder.
#pragma once

#include "app/background.h"
#include "core/model/part.h"

#include <QDateTime>
#include <QObject>
#include <QString>
#include <functional>
#include <map>
#include <memory>
#include <vector>

namespace fulmox::app {

struct UserCatalogue {
    QString file; ///< its whole path
    QString name;
    std::shared_ptr<const PartLists> parts = std::make_shared<PartLists>(); ///< never none
    QString problem; ///< the first of what is wrong with it, or that it is being read; empty: nothing
};

class PartShelf : public QObject {
    Q_OBJECT

  public:
    explicit PartShelf(QObject* parent = nullptr);

    /// All kinds but motors, which have a catalogue of their own.
    const PartLists& shipped() const;
    const std::vector<UserCatalogue>& own() const { return own_; }
    /// Another number whenever something has changed.
    int revision() const { return revision_; }
    /// "catalogues" in the user's data folder: files of JSON or CSV, put there by hand or by `keep`.
    QString folder() const;
    /// Looks at the folder again where something in it has changed. Large files come a little later: `changed` says so.
    void reload(const QString& written = {});
    /// Writes the parts as a catalogue of one's own; a file of that name is added to: an earlier edition of a
    /// part gives way, and parts of a name that is taken otherwise get a number. Empty, or why it could not.
    QString keep(const QString& name, const PartLists& parts);
    /// The same beside the window, one list after the other; `then` is told what `keep` returns.
    void keep_beside(
        const QString& name, std::shared_ptr<const PartLists> parts, std::function<void(const QString&)> then);
    bool keeping() const { return keeping_.running(); }
    QString remove(const QString& file);

  signals:
    void changed();

  private:
    static PartLists read_shipped();
    std::vector<UserCatalogue> own_;
    std::map<QString, QDateTime> seen_;
    int revision_ = 0;
    Background<std::vector<UserCatalogue>> reading_;
    Background<QString> keeping_;
};

/// The one of this program.
PartShelf& part_shelf();

} // namespace fulmox::app
