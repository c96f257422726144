// A list of the document: its entries as sentences, buttons, and the form of the selected one.
#pragma once

#include "app/forms/form.h"
#include "app/live.h"

#include <QListWidget>
#include <functional>

namespace fulmox::app {

class ListEditor : public LiveWidget {
    Q_OBJECT

  public:
    /// `place` is a pointer to a list, relative to the axis, or absolute after "//". `size` counts its
    /// entries, `sentence` tells one by its index. The list and the form are made when there is a first entry.
    ListEditor(Document& document, QString place, const QString& heading, const QString& add_text,
        std::function<std::size_t()> size, std::function<QString(std::size_t)> sentence, QWidget* parent = nullptr);
    void refresh() override;
    /// Selects the entry a path lies in and puts the focus there; false if it is elsewhere.
    bool go_to(const QString& path);
    /// Made with the list and shown between it and the form.
    void set_picture(std::function<QWidget*()> make) { picture_ = std::move(make); }
    int current() const { return list_ ? list_->currentRow() : -1; }
    void select(int row);

  signals:
    void focused(const QString& path);

  private:
    QString absolute() const;
    void edit(const QString& name, int from, int to, const std::function<void(FieldRef&)>& change, int then_select);
    void build();

    QString place_;
    std::function<std::size_t()> size_;
    std::function<QString(std::size_t)> sentence_;
    std::function<QWidget*()> picture_;
    QListWidget* list_ = nullptr;
    QWidget* content_ = nullptr;
    Form* form_ = nullptr;
};

} // namespace fulmox::app
