#include "app/opening.h"

#include "app/background.h"
#include "app/regular_file.h"

#include <QCoreApplication>
#include <QEventLoop>
#include <QFileInfo>
#include <QProgressDialog>

namespace fulmox::app {

std::optional<Result<ProjectRead, QString>> load_beside(QWidget* window, const QString& file) {
    if (const auto size = size_of_regular(file); !size || *size <= read_at_once) return load_project(file);
    using Read = std::shared_ptr<Result<ProjectRead, QString>>;
    QEventLoop loop;
    Read read;
    bool ended = false;
    auto work = std::make_unique<Background<Read>>();
    work->run(
        qApp, [file](const GoOn&) { return std::make_shared<Result<ProjectRead, QString>>(load_project(file)); },
        [&](Read made) {
            read = std::move(made);
            ended = true;
            loop.quit();
        });
    if (!ended) {
        const auto tr = [](const char* text) { return QCoreApplication::translate("Opening", text); };
        QProgressDialog dialog(tr("%1 is being read…").arg(QFileInfo(file).fileName()), tr("Stop"), 0, 0, window);
        dialog.setObjectName(QStringLiteral("opening"));
        dialog.setWindowTitle(tr("Open project"));
        dialog.setWindowModality(Qt::ApplicationModal);
        dialog.setMinimumDuration(0);
        QObject::connect(&dialog, &QProgressDialog::canceled, &loop, [&] {
            work->drop();
            loop.quit();
        });
        dialog.show();
        loop.exec();
    }
    if (!ended) {
        let_end(std::move(work));
        return std::nullopt;
    }
    if (!read)
        return Result<ProjectRead, QString>::failure(
            QCoreApplication::translate("Opening", "%1 is not opened: there is not enough memory for it.").arg(file));
    return std::move(*read);
}

} // namespace fulmox::app
